import { Controller, Get, Header, Param, Query, Res, StreamableFile } from '@nestjs/common';
import type { Response } from 'express';
import { EXPORT_FORMATS, type ExportFormat } from '@mistpeak/contract/export-formats';
import { ExportQuery, SearchQuery, type SearchPage } from '@mistpeak/contract/search';
import { OperatorService } from '../operator/operator.service.js';
import { ProblemException } from '../problems/problem.js';
import { exported } from './export.js';
import { SearchService } from './search.service.js';

/** More is refused to no one, and left out: a file of this size is opened by any program. */
const MOST_EXPORTED = 200_000;

@Controller('record')
export class SearchController {
  constructor(
    private readonly search: SearchService,
    private readonly operator: OperatorService,
  ) {}

  /** What fits of all that is kept, newest first. */
  @Get('search')
  find(@Query() { limit, beforeMs, beforeId, ...filter }: SearchQuery): Promise<SearchPage> {
    return this.search.find(filter, limit, {
      ...(beforeMs === undefined ? {} : { beforeMs }),
      ...(beforeId === undefined ? {} : { beforeId }),
    });
  }

  /** The same as a file, oldest first, the newest 200,000 at most. */
  @Get('export/:format')
  @Header('Cache-Control', 'no-store')
  async export(
    @Param('format') format: string,
    @Query() { sinceMs, untilMs, ...filter }: ExportQuery,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    if (!(format in EXPORT_FORMATS)) throw new ProblemException('not-found');
    const known = format as ExportFormat;
    const records = await this.search.within(filter, sinceMs, untilMs ?? Date.now() + 1, MOST_EXPORTED);
    const operator = this.operator.view();
    const manner = {
      units: operator?.units ?? 'metric',
      coordinates: operator?.coordinates ?? 'decimal',
    } as const;
    const body = Buffer.from(exported(known, records, manner));
    response.type(EXPORT_FORMATS[known].type);
    return new StreamableFile(body, { disposition: `attachment; filename="heard.${known}"` });
  }
}
