import { Injectable } from '@nestjs/common';
import { pack } from '@mistpeak/core/lzhuf/container';
import { readMailAddress } from '@mistpeak/core/mail/address';
import { beyondLatin1 } from '@mistpeak/core/mail/letter';
import { packMessage } from '@mistpeak/core/mail/message';
import { carriedMs, sessionMs, wireOctets, type Pace } from '@mistpeak/core/mail/minutes';
import { meantPerhaps } from '@mistpeak/core/messages/addressee';
import type { AddressEntry, WeighLetter, WeightView } from '@mistpeak/contract/mail';
import type { MailProfile } from '@mistpeak/contract/mail-settings';
import { ProblemException } from '../problems/problem.js';
import { MailBoxService } from './box.service.js';
import { MailHoldings } from './holdings.service.js';
import { MailPace } from './pace.service.js';
import { MailRunner } from './runner.service.js';
import { MailSettingsService } from './mail-settings.service.js';
import { MailStore } from './mail-store.js';
import { StationsService } from '../stations/stations.service.js';

const MOST_ADDRESSES = 500;
/** Weighed with the letter’s own: as a stand-in for the id that it will have. */
const SOME_MID = 'ABCDEFGHIJKL';
const UNKNOWN: Pace = { octetsPerSecond: 50, setUpMs: 20_000, from: 'reckoning', sessions: 0 };

/** Packing holds up everybody else: what is far too large for radio anyway is judged by its beginning. */
const PACKED_WHOLE_OCTETS = 120_000;
const SAMPLE_OCTETS = 30_000;

function packedLength(octets: Uint8Array): number {
  if (octets.length <= PACKED_WHOLE_OCTETS) return pack(octets).length;
  return Math.round((pack(octets.subarray(0, SAMPLE_OCTETS)).length * octets.length) / SAMPLE_OCTETS);
}

/** What a letter would cost before it is sent, by packing it as it would be. */
@Injectable()
export class MailScales {
  constructor(
    private readonly boxes: MailBoxService,
    private readonly holdings: MailHoldings,
    private readonly pace: MailPace,
    private readonly runner: MailRunner,
    private readonly settings: MailSettingsService,
    private readonly stations: StationsService,
    private readonly store: MailStore,
  ) {}

  async weigh(letter: WeighLetter): Promise<WeightView> {
    const profile = this.profileOf(letter.profileId);
    const pace = profile ? this.pace.of(profile, this.runner.attemptsOf(profile)) : UNKNOWN;
    const whole = this.packed(letter);
    const bare = this.packed({ ...letter, files: [] });
    const files = letter.files.map((file) => {
      // What leaving it out would save.
      const packedOctets =
        letter.files.length === 1
          ? whole.packed - bare.packed
          : this.packed({ ...letter, files: [file] }).packed - bare.packed;
      return {
        name: file.name,
        octets: Buffer.from(file.base64, 'base64').length,
        packedOctets,
        ms: carriedMs(packedOctets + (2 * packedOctets) / 250, pace),
      };
    });
    const posted = this.holdings.outgoing('', profile?.way === 'tcp' ? 'internet' : 'radio');
    const text = `${letter.subject}\n${letter.text}`;
    return {
      octets: whole.octets,
      packedOctets: whole.packed,
      ms: carriedMs(wireOctets(whole.packed, letter.subject), pace),
      files,
      pace,
      sessionMs: sessionMs([...posted, { packedOctets: whole.packed, subject: letter.subject }], pace),
      beyondLatin1: beyondLatin1(text),
      addresses: await this.judged([...letter.to, ...letter.cc]),
    };
  }

  /** The operator’s own limit, on the way that is used first; what goes by the internet only has none. */
  refuseTooHeavy({ files, ...letter }: WeighLetter): void {
    if (letter.onlyInternet) return;
    const profile = this.settings.view().profiles.find(({ way }) => way !== 'tcp');
    const pace = profile ? this.pace.of(profile, this.runner.attemptsOf(profile)) : UNKNOWN;
    const { packed } = this.packed({ ...letter, files });
    if (carriedMs(wireOctets(packed, letter.subject), pace) > this.settings.view().mostMinutes * 60_000)
      throw new ProblemException('too-heavy');
  }

  /** The first one, where none is named. */
  private profileOf(id: string | undefined): MailProfile | undefined {
    const { profiles } = this.settings.view();
    return profiles.find((one) => one.id === id) ?? profiles[0];
  }

  private packed(letter: WeighLetter): { octets: number; packed: number } {
    const octets = packMessage(this.boxes.message(letter, SOME_MID));
    return { octets: octets.length, packed: packedLength(octets) };
  }

  /** Everybody written to or from, then stations heard. */
  async addresses(): Promise<AddressEntry[]> {
    const mail = (await this.store.correspondents(MOST_ADDRESSES)).map(({ address, atMs }) => ({
      address,
      from: 'mail' as const,
      lastAtMs: atMs,
    }));
    const known = new Set(mail.map(({ address }) => address));
    const heard = new Map<string, number>();
    for (const { name, heardAtMs } of this.stations.calls()) {
      const call = name.split('-')[0] as string;
      heard.set(call, Math.max(heardAtMs, heard.get(call) ?? 0));
    }
    const stations = [...heard]
      .filter(([call]) => !known.has(call) && !this.settings.addresses().includes(call))
      .sort(([, a], [, b]) => b - a)
      .slice(0, MOST_ADDRESSES)
      .map(([address, lastAtMs]) => ({ address, from: 'stations' as const, lastAtMs }));
    return [...mail, ...stations];
  }

  private async judged(all: readonly string[]): Promise<WeightView['addresses']> {
    const rules = { own: this.settings.addresses(), domain: this.settings.view().domain };
    const known = (await this.addresses()).map(({ address }) => address);
    return Object.fromEntries(
      all.map((typed): [string, WeightView['addresses'][string]] => {
        const address = readMailAddress(typed, rules);
        if (!address.ok) return [typed, { trouble: address.trouble }];
        const meant = address.kind === 'station' ? meantPerhaps(address.address, known) : [];
        return [
          typed,
          {
            ...(address.doubt === undefined ? {} : { doubt: address.doubt }),
            ...(meant.length > 0 ? { meant } : {}),
          },
        ];
      }),
    );
  }
}
