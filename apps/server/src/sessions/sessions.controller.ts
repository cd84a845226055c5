import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Post, Put, Query, Res } from '@nestjs/common';
import { encodeText } from '@mistpeak/core/terminal/charset';
import {
  CallStation,
  SayOctets,
  SessionParameterSettings,
  type SaidView,
  type SessionFileView,
  type SessionView,
} from '@mistpeak/contract/sessions';
import type { Response } from 'express';
import { CommandId } from '../commands/command-id.js';
import { ProblemException } from '../problems/problem.js';
import { SessionExport } from './session-export.js';
import { SessionStore } from './session-store.js';
import { SessionsService } from './sessions.service.js';

const MOST_FOUND = 50;

@Controller('sessions')
export class SessionsController {
  constructor(
    private readonly exports: SessionExport,
    private readonly sessions: SessionsService,
    private readonly store: SessionStore,
  ) {}

  @Post()
  open(@Body() call: CallStation, @CommandId() id: string): SessionView {
    return this.sessions.open(id, call);
  }

  /** Those in which that was said, in letters of UTF-8 or one octet each. */
  @Get('search')
  async search(@Query('text') text = ''): Promise<SessionView[]> {
    if (text.trim() === '') return [];
    const found = new Map<string, SessionView>();
    for (const charset of ['UTF-8', 'ISO-8859-1'] as const)
      for (const view of await this.store.search(encodeText(text, charset).octets, MOST_FOUND))
        found.set(view.id, view);
    return [...found.values()];
  }

  @Get(':id')
  async one(@Param('id', ParseUUIDPipe) id: string): Promise<SessionView> {
    const view = this.sessions.views().find((one) => one.id === id) ?? (await this.store.find(id));
    if (!view) throw new ProblemException('not-found');
    return view;
  }

  @Get(':id/said')
  async said(@Param('id', ParseUUIDPipe) id: string): Promise<SaidView[]> {
    // What mail says is read where mail is, by whom it is for.
    return (await this.store.find(id))?.purpose === 'mail' ? [] : this.store.said(id);
  }

  @Get(':id/files')
  files(@Param('id', ParseUUIDPipe) id: string): Promise<SessionFileView[]> {
    return this.store.files(id);
  }

  @Get('files/:id')
  async file(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    const file = await this.store.file(id);
    if (!file) throw new ProblemException('not-found');
    response.attachment(file.name).type('application/octet-stream').send(file.octets);
  }

  /** form: text, binary (theirs alone), or adif. */
  @Get(':id/export/:form')
  async export(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('form') form: string,
    @Res() response: Response,
  ): Promise<void> {
    const session = await this.one(id);
    if (session.purpose === 'mail') throw new ProblemException('not-found');
    const { name, type, octets } = await this.exports.make(session, form);
    response.attachment(name).type(type).send(octets);
  }

  @Post(':id/say')
  @HttpCode(200)
  say(@Param('id', ParseUUIDPipe) id: string, @Body() { base64, isSecret }: SayOctets): SessionView {
    return this.sessions.say(id, new Uint8Array(Buffer.from(base64, 'base64')), isSecret ?? false);
  }

  @Post(':id/disconnect')
  @HttpCode(200)
  disconnect(@Param('id', ParseUUIDPipe) id: string): SessionView {
    return this.sessions.disconnect(id);
  }

  @Put(':id/parameters')
  choose(@Param('id', ParseUUIDPipe) id: string, @Body() parameters: SessionParameterSettings): SessionView {
    return this.sessions.choose(id, { ...parameters });
  }
}
