import type { Chain } from '../chain/chain.js';
import { USUAL_PATHS } from '../digipeating/usual-paths.js';
import { kindOf } from './kind-of-chain.js';

/** One way in which practitioners do it: what it is good for and what it costs. value: what stands on the sheet. */
export interface SchoolOption {
  readonly id: string;
  readonly name: string;
  readonly value: string;
  readonly goodFor: string;
}

/** A question that practitioners answer differently. All of it is common practice, no source. */
export interface School {
  readonly name: string;
  readonly options: readonly SchoolOption[];
}

const option = (id: string, name: string, value: string, goodFor: string): SchoolOption => ({
  id,
  name,
  value,
  goodFor,
});

export const SCHOOLS = {
  squelch: {
    name: 'Squelch',
    options: [
      option(
        'open',
        'open',
        'open',
        'decoding the most; the noise is always heard, and a channel that is judged by ear is never free',
      ),
      option(
        'lowest',
        'lowest closed',
        'the lowest that closes',
        'quiet between packets, and a channel that sounds free when it is; weak stations lose their start',
      ),
      option(
        'higher',
        'a step higher',
        'one step above the lowest that closes',
        'noisy places with strong stations; weak ones are lost',
      ),
    ],
  },
  vox: {
    name: 'VOX',
    options: [
      option(
        'sensitive',
        'sensitive first',
        'the most sensitive end first, backed off only if noise keys it',
        'a key that holds through every packet; noise may key it',
      ),
      option(
        'least',
        'least that holds',
        'up from the least until a whole packet holds',
        'rooms with noise; it may let go in the middle',
      ),
    ],
  },
  bandwidth: {
    name: 'Bandwidth',
    options: [
      option(
        'wide',
        'wide',
        'wide, 25 kHz',
        'what packet on FM was made for; takes two channels of a narrow plan',
      ),
      option(
        'narrow',
        'narrow',
        'narrow, 12.5 kHz, with less transmit audio',
        'where the local band plan asks for it; too much audio distorts',
      ),
    ],
  },
  power: {
    name: 'Power',
    options: [
      option(
        'enough',
        'enough to be heard',
        'low, then up until it is heard',
        'battery and neighbours; takes some tries',
      ),
      option('high', 'high', 'high', 'moving in thin country; drains the battery'),
    ],
  },
  dataSounds: {
    name: 'Data sounds',
    options: [
      option('heard', 'heard', 'heard', 'being sure that data comes through; the rasp is always there'),
      option(
        'muted',
        'muted',
        'heard until a packet came through, then muted on trial',
        'peace; on some sets the data is gone with the sound',
      ),
    ],
  },
  dataChannel: {
    name: 'Data channel',
    options: [
      option('fixed', 'fixed', 'fixed', 'knobs that get turned; a change of channel takes a menu'),
      option(
        'following',
        'following the display',
        'following what is displayed',
        'changing channels often; one turn of the knob ends the data',
      ),
    ],
  },
  tuning: {
    name: 'Frequency',
    options: [
      option(
        'control',
        'by control',
        'by the program',
        'calling one station after the other; the control port must work',
      ),
      option('hand', 'by hand', 'by hand, from the list', 'seeing what happens; each call takes longer'),
    ],
  },
  drive: {
    name: 'Drive',
    options: [
      option('clean', 'no ALC', 'no ALC action at all', 'a clean signal; weaker'),
      option(
        'touching',
        'ALC just moving',
        'until the ALC just moves',
        'being loud enough; more makes it wide',
      ),
    ],
  },
  receiveLevel: {
    name: 'Receive level',
    options: [
      option(
        'rms',
        'by RMS',
        'until the RMS level stands in the middle of the window',
        'steady packets; short peaks may touch full scale',
      ),
      option(
        'peaks',
        'by peaks',
        'until the peaks stay just below full scale',
        'sound cards with little room; the level itself may be low',
      ),
    ],
  },
  path: {
    name: 'Path',
    options: [
      ...USUAL_PATHS.map(({ id, name, path, goodFor }) => option(id, name, path || 'none', goodFor)),
      option(
        'own',
        'one of one’s own',
        'the calls of known digipeaters, in order',
        'a way that is known; it ends where one of them is off',
      ),
    ],
  },
  ssid: {
    name: 'SSID',
    options: [
      option(
        'convention',
        'by convention',
        'by the table',
        'others read the role from the number; few numbers for each role',
      ),
      option(
        'free',
        'free choice',
        'any number that is yours',
        'many stations of one call; others will misread it',
      ),
    ],
  },
  internet: {
    name: 'Internet',
    options: [
      option('off', 'off', 'off', 'seeing only what the radio hears'),
      option(
        'mixed',
        'mixed on purpose',
        'on, once the radio is proved',
        'seeing more; what came by which way must be looked up',
      ),
    ],
  },
  fixedBeacon: {
    name: 'Beacon of a fixed station',
    options: [
      option('seldom', 'seldom', '30 min, or by hand', 'being found; air time for nothing new'),
      option(
        'never',
        'never',
        'none: by hand when asked',
        'a channel that is full; nobody sees you by chance',
      ),
    ],
  },
  announce: {
    name: 'Voice frequency in the comment',
    options: [
      option(
        'told',
        'announced',
        'short, with the voice frequency and tone that you listen on',
        'being called; it goes stale when you turn the knob',
      ),
      option('none', 'not announced', 'short, or none', 'short packets; nobody knows where to call you'),
    ],
  },
  firstSession: {
    name: 'First session',
    options: [
      option('empty', 'empty', 'with nothing queued', 'proving the chain by itself; one session more'),
      option('loaded', 'loaded', 'with the mail that is waiting', 'a single chance; a failure says less'),
    ],
  },
  poll: {
    name: 'Fetching mail',
    options: [
      option('hand', 'by hand', 'by hand', 'knowing when it transmits'),
      option(
        'schedule',
        'by schedule',
        'by schedule, where local rules allow it',
        'mail that comes by itself; it transmits unattended',
      ),
    ],
  },
} as const satisfies Record<string, School>;

export type SchoolId = keyof typeof SCHOOLS;
export type SchoolChoices = Readonly<Partial<Record<SchoolId, string>>>;

export const isSchoolId = (text: string): text is SchoolId => Object.hasOwn(SCHOOLS, text);

/** The option that was chosen, else the one that suits the chain. */
export function chosenOption(id: SchoolId, choices: SchoolChoices, chain: Chain): SchoolOption {
  const options: readonly SchoolOption[] = SCHOOLS[id].options;
  const isKnown = (wanted: string | undefined): SchoolOption | undefined =>
    options.find((one) => one.id === wanted);
  return isKnown(choices[id]) ?? isKnown(suited(id, chain)) ?? (options[0] as SchoolOption);
}

/** What fits a chain. Only where sound is received and nothing sent is an open squelch without a price. */
function suited(id: SchoolId, chain: Chain): string | undefined {
  const { isSound, transmits } = kindOf(chain);
  if (id === 'squelch') return isSound && !transmits ? 'open' : 'lowest';
  return undefined;
}
