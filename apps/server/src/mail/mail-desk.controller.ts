import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  UseGuards,
} from '@nestjs/common';
import { AccountPassword, MailSettings, UnlockPassword } from '@mistpeak/contract/mail-settings';
import {
  DecideMail,
  StartMail,
  type MailDesk,
  type MailRunDetail,
  type MailRunView,
} from '@mistpeak/contract/mail-session';
import { CommandId } from '../commands/command-id.js';
import { MailAccount } from './account.service.js';
import { MailBoxService } from './box.service.js';
import { MailListeningService } from './listening.service.js';
import { MailPulseService } from './mail-pulse.service.js';
import { MailReaders } from './readers.guard.js';
import { MailRunner } from './runner.service.js';
import { MailRunStore } from './run-store.js';
import { MailScheduler } from './schedule.service.js';
import { MailSelfTests } from './self-tests.service.js';
import { MailSettingsService } from './mail-settings.service.js';
import { MailStore } from './mail-store.js';

/** Settings, the account, and sessions. */
@Controller('mail')
@UseGuards(MailReaders)
export class MailDeskController {
  constructor(
    private readonly account: MailAccount,
    private readonly boxes: MailBoxService,
    private readonly listening: MailListeningService,
    private readonly pulse: MailPulseService,
    private readonly runner: MailRunner,
    private readonly runs: MailRunStore,
    private readonly scheduler: MailScheduler,
    private readonly selfTests: MailSelfTests,
    private readonly settings: MailSettingsService,
    private readonly store: MailStore,
  ) {}

  @Get()
  async desk(): Promise<MailDesk> {
    const { boxes, folders } = await this.store.counts();
    const closed = this.listening.closedBecause();
    return {
      settings: this.settings.view(),
      account: this.account.view(),
      folders,
      counts: boxes,
      selfTests: this.selfTests.views(),
      history: this.runs.history(this.runner.views()),
      nextAtMs: this.scheduler.next(),
      notCalled: this.scheduler.trouble(),
      ownAddresses: this.settings.addresses(),
      ...(closed === undefined ? {} : { listeningClosedBecause: closed }),
    };
  }

  @Put('settings')
  async choose(@Body() settings: MailSettings): Promise<MailDesk> {
    await this.settings.choose(settings);
    await this.pulse.tell();
    return this.desk();
  }

  /** The password itself goes in and never comes out. */
  @Put('account')
  async choosePassword(@Body() { fromMessage, ...given }: AccountPassword): Promise<MailDesk> {
    const told = fromMessage === undefined ? undefined : await this.boxes.passwordOf(fromMessage);
    await this.account.choose(told === undefined ? given : { ...given, password: told }, told !== undefined);
    await this.pulse.tell();
    return this.desk();
  }

  @Post('account/unlock')
  @HttpCode(200)
  async unlock(@Body() { passphrase }: UnlockPassword): Promise<MailDesk> {
    this.account.unlock(passphrase);
    await this.pulse.tell();
    return this.desk();
  }

  @Delete('account')
  async forget(): Promise<MailDesk> {
    await this.account.forget();
    await this.pulse.tell();
    return this.desk();
  }

  @Post('sessions')
  start(@Body() order: StartMail, @CommandId() id: string): Promise<MailRunView> {
    return this.runner.start(id, order);
  }

  @Get('sessions/:id')
  async session(@Param('id', ParseUUIDPipe) id: string): Promise<MailRunDetail> {
    const { view, lines, run } = await this.runner.detail(id);
    const announced = run?.conversation?.announced ?? [];
    const mids = [...view.out, ...view.in].map(({ mid }) => mid);
    // Told without them while the database is away.
    const subjects = await this.store.subjects(mids).catch(() => ({}));
    return { run: view, lines, announced, subjects };
  }

  @Post('sessions/:id/stop')
  @HttpCode(200)
  stop(@Param('id', ParseUUIDPipe) id: string): MailRunView {
    const run = this.runner.run(id);
    run.stop();
    return run.view();
  }

  @Post('sessions/:id/tuned')
  @HttpCode(200)
  tuned(@Param('id', ParseUUIDPipe) id: string): MailRunView {
    const run = this.runner.run(id);
    run.noteTuned();
    return run.view();
  }

  @Post('sessions/:id/decide')
  @HttpCode(200)
  decide(@Param('id', ParseUUIDPipe) id: string, @Body() { decisions }: DecideMail): MailRunView {
    const run = this.runner.run(id);
    run.decide(Object.fromEntries(decisions.map(({ mid, answer }) => [mid, answer])));
    return run.view();
  }
}
