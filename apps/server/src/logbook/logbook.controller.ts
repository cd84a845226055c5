import {
  Body,
  Controller,
  Delete,
  Get,
  Header,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  Query,
  StreamableFile,
} from '@nestjs/common';
import {
  CompareQuery,
  NewNote,
  StreamQuery,
  TripSettings,
  type Comparison,
  type StreamPage,
  type TripRecord,
  type TripView,
} from '@mistpeak/contract/logbook';
import { CommandId } from '../commands/command-id.js';
import { LogbookService } from './logbook.service.js';
import { MomentsService } from './moments.service.js';
import { StreamService } from './stream.service.js';

@Controller('logbook')
export class LogbookController {
  constructor(
    private readonly logbook: LogbookService,
    private readonly moments: MomentsService,
    private readonly stream: StreamService,
  ) {}

  @Get()
  page(@Query() { kinds, words, ok, beforeMs, beforeId, limit }: StreamQuery): Promise<StreamPage> {
    const wish = { kinds, words, ...(ok === undefined ? {} : { ok: ok === 'yes' }) };
    return this.stream.page(wish, { beforeMs, beforeId }, limit);
  }

  @Get('compare')
  compare(@Query() { fromMs, toMs }: CompareQuery): Promise<Comparison> {
    return this.moments.compare(fromMs, toMs);
  }

  @Get('contacts.adi')
  @Header('content-type', 'text/plain; charset=utf-8')
  @Header('content-disposition', 'attachment; filename="contacts.adi"')
  adif(): Promise<string> {
    return this.logbook.adif();
  }

  @Post('notes')
  @HttpCode(204)
  note(@Body() note: NewNote, @CommandId() id: string): Promise<void> {
    return this.logbook.note(id, note);
  }

  @Get('notes/:id/picture')
  async picture(@Param('id', ParseUUIDPipe) id: string): Promise<StreamableFile> {
    const { octets, type } = await this.logbook.picture(id);
    return new StreamableFile(octets, { type });
  }

  @Delete('notes/:id')
  @HttpCode(204)
  removeNote(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.logbook.removeNote(id);
  }

  @Post('trips')
  begin(@Body() trip: TripSettings, @CommandId() id: string): Promise<TripView> {
    return this.logbook.saveTrip(id, trip);
  }

  @Put('trips/:id')
  change(@Param('id', ParseUUIDPipe) id: string, @Body() trip: TripSettings): Promise<TripView> {
    return this.logbook.saveTrip(id, trip);
  }

  @Get('trips/:id')
  trip(@Param('id', ParseUUIDPipe) id: string): Promise<TripRecord> {
    return this.logbook.record(id);
  }

  @Delete('trips/:id')
  @HttpCode(204)
  removeTrip(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.logbook.removeTrip(id);
  }
}
