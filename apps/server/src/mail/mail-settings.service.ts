import { Injectable } from '@nestjs/common';
import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { whyNoRadioWords } from '@mistpeak/core/command-words/radio-control';
import { CHECK_IN } from '@mistpeak/core/mail/forms';
import { parseVia } from '@mistpeak/core/sessions/via';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { MailProfile, MailSettings, MailSettingsView } from '@mistpeak/contract/mail-settings';
import { DataSource } from 'typeorm';
import { LinksService } from '../links/links.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';

const FIRST: MailSettingsView = {
  domain: '',
  auxiliary: [],
  mostMinutes: 15,
  askOverOctets: 5000,
  watchersMayRead: false,
  profiles: [],
  templates: [CHECK_IN],
  listening: { isOn: false, ssid: 0, allowsAutomatic: false },
  modems: [],
  radios: [],
  version: 0,
};

/** What the operator has chosen for mail. */
@Injectable()
export class MailSettingsService {
  private settings: MailSettingsView = FIRST;

  constructor(
    private readonly database: DataSource,
    private readonly links: LinksService,
    private readonly operator: OperatorService,
  ) {}

  async read(): Promise<void> {
    const [row] = await this.database.query<{ settings: MailSettings | null; version: number }[]>(
      'SELECT settings, version FROM mail',
    );
    if (row?.settings) this.settings = { ...FIRST, ...row.settings, version: row.version };
  }

  view(): MailSettingsView {
    return this.settings;
  }

  profile(id: string): MailProfile {
    const profile = this.settings.profiles.find((one) => one.id === id);
    if (!profile) throw new ProblemException('not-found');
    return profile;
  }

  /** The licence call first; further addresses after it. */
  addresses(): string[] {
    const call = this.operator.view()?.call;
    return call === undefined ? [] : [call, ...this.settings.auxiliary.filter((one) => one !== call)];
  }

  async choose({ version, ...given }: MailSettings): Promise<MailSettingsView> {
    refuseIfChanged(this.settings.version, version);
    for (const profile of given.profiles) this.check(profile, given);
    const { listening, radios } = given;
    if (listening.isOn && !listening.allowsAutomatic)
      throw new ProblemException('field-refused', {
        allowsAutomatic: 'say that your local rules allow a station that answers while nobody is there',
      });
    if (listening.isOn && listening.linkId === undefined)
      throw new ProblemException('field-refused', { listening: 'choose a link' });
    for (const { name, words } of radios) {
      const trouble = whyNoRadioWords(words);
      if (trouble !== undefined)
        throw new ProblemException('field-refused', { radios: `${name}: ${trouble}` });
    }
    const next = this.settings.version + 1;
    await this.database.query('UPDATE mail SET settings = $1, version = $2', [JSON.stringify(given), next]);
    this.settings = { ...given, version: next };
    return this.settings;
  }

  private check(profile: MailProfile, { modems, radios }: Pick<MailSettings, 'modems' | 'radios'>): void {
    const { way, linkId, gateways, host, port, modem, radio, from, name, schedule } = profile;
    const refuse = (words: string): never => {
      throw new ProblemException('field-refused', { profiles: `${name}: ${words}` });
    };
    const licence = this.operator.view()?.call;
    if (licence !== undefined && callWithoutSsid(from.toUpperCase()) !== licence)
      refuse(`${from} is not your call`);
    if (way === 'tcp') {
      if (!host || port === undefined) refuse('give host and port of the service');
    } else {
      if (linkId === undefined) refuse('choose a link');
      if (gateways.length === 0) refuse('whom does it call? One at least');
    }
    for (const { via, call } of gateways) {
      const read = parseVia(via);
      if (isMalformed(read)) refuse(`${call}: ${read.malformed}`);
    }
    if (way === 'modem' && !modems.some((one) => one.name === modem)) refuse('choose a modem program');
    if (radio !== undefined && radio !== '' && !radios.some((one) => one.name === radio))
      refuse(`there is no radio ${radio}`);
    if (schedule?.isOn && !schedule.allowsAutomatic)
      refuse('say that your local rules allow a station that calls while nobody is there');
    if (linkId !== undefined && !this.links.views().some(({ id }) => id === linkId))
      refuse('its link was removed: choose another');
  }
}
