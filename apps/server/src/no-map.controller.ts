import { Controller, Get, HttpCode } from '@nestjs/common';

/** Where no map of the place was laid ready: nothing, which is no error. */
@Controller('map')
export class NoMapController {
  @Get('island.geojson')
  @HttpCode(204)
  nothing(): void {
    return;
  }
}
