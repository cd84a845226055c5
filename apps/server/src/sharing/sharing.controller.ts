import { Body, Controller, Delete, HttpCode, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import { ClientRights, SharingSettings, type SharingView } from '@mistpeak/contract/sharing';
import { SharingService } from './sharing.service.js';

@Controller('links/:id/sharing')
export class SharingController {
  constructor(private readonly sharing: SharingService) {}

  @Put()
  change(@Param('id', ParseUUIDPipe) id: string, @Body() settings: SharingSettings): Promise<SharingView> {
    return this.sharing.change(id, settings);
  }

  @Put('clients/:client')
  allow(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('client') client: string,
    @Body() { mayTransmit }: ClientRights,
  ): SharingView {
    return this.sharing.allow(id, client, mayTransmit);
  }

  @Delete('clients/:client')
  @HttpCode(204)
  dismiss(@Param('id', ParseUUIDPipe) id: string, @Param('client') client: string): void {
    this.sharing.dismiss(id, client);
  }
}
