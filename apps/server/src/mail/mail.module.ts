import { Module, type OnModuleInit } from '@nestjs/common';
import { AccessModule } from '../access/access.module.js';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { ProofModule } from '../proof/proof.module.js';
import { RemovalsModule } from '../removals/removals.module.js';
import { SessionsModule } from '../sessions/sessions.module.js';
import { StationsModule } from '../stations/stations.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { TrueTimeModule } from '../true-time/true-time.module.js';
import { MailAccount } from './account.service.js';
import { MailBoxService } from './box.service.js';
import { ChannelEar } from './channel-ear.js';
import { MailHoldings } from './holdings.service.js';
import { MailListeningService } from './listening.service.js';
import { MailController } from './mail.controller.js';
import { MailDeskController } from './mail-desk.controller.js';
import { MailPulseService } from './mail-pulse.service.js';
import { MailSettingsService } from './mail-settings.service.js';
import { MailStore } from './mail-store.js';
import { MailPace } from './pace.service.js';
import { MailRunner } from './runner.service.js';
import { MailRunStore } from './run-store.js';
import { MailScheduler } from './schedule.service.js';
import { MailSelfTests } from './self-tests.service.js';
import { RadioTuning } from './tuning.service.js';
import { MailScales } from './weigh.service.js';

@Module({
  imports: [
    AccessModule,
    LinksModule,
    OperatorModule,
    ProofModule,
    RemovalsModule,
    SessionsModule,
    StationsModule,
    TransmittingModule,
    TrueTimeModule,
  ],
  controllers: [MailController, MailDeskController],
  providers: [
    ChannelEar,
    MailAccount,
    MailBoxService,
    MailHoldings,
    MailListeningService,
    MailPace,
    MailPulseService,
    MailRunStore,
    MailRunner,
    MailScales,
    MailScheduler,
    MailSelfTests,
    MailSettingsService,
    MailStore,
    RadioTuning,
  ],
  exports: [MailAccount],
})
export class MailModule implements OnModuleInit {
  constructor(
    private readonly account: MailAccount,
    private readonly holdings: MailHoldings,
    private readonly listening: MailListeningService,
    private readonly pulse: MailPulseService,
    private readonly runner: MailRunner,
    private readonly scheduler: MailScheduler,
    private readonly selfTests: MailSelfTests,
    private readonly settings: MailSettingsService,
  ) {}

  /** What was kept is read before anybody can call. */
  async onModuleInit(): Promise<void> {
    await this.settings.read();
    await this.account.read();
    await this.holdings.read();
    await this.selfTests.read();
    await this.pulse.begin();
    await this.runner.begin();
    this.listening.begin();
    this.scheduler.begin();
  }
}
