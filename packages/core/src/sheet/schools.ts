import { isSoundChain, type Chain } from '../chain/chain.js';

/** One way in which practitioners do it, and what it is good for. value: what stands on the sheet. */
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

export const SCHOOLS = {
  squelch: {
    name: 'Squelch',
    options: [
      { id: 'open', name: 'open', value: '0, open', goodFor: 'sound and VOX chains, and decoding the most' },
      {
        id: 'lowest',
        name: 'lowest closed',
        value: '1, the lowest that closes',
        goodFor: 'modem apps that take open noise for a busy channel and never transmit',
      },
      { id: 'two', name: 'two', value: '2', goodFor: 'places where 0 cannot be lived with and 1 flutters' },
    ],
  },
  bandwidth: {
    name: 'Bandwidth',
    options: [
      { id: 'wide', name: 'wide', value: 'wide, 25 kHz', goodFor: 'what 1200 baud on FM was made for' },
      {
        id: 'narrow',
        name: 'narrow',
        value: 'narrow, 12.5 kHz, with less transmit audio',
        goodFor: 'where the local band plan asks for it',
      },
    ],
  },
  ssid: {
    name: 'SSID',
    options: [
      {
        id: 'convention',
        name: 'by convention',
        value: 'by the table',
        goodFor: 'others read the role from the number',
      },
      {
        id: 'free',
        name: 'free choice',
        value: 'any number that is yours',
        goodFor: 'many stations of one call',
      },
    ],
  },
  path: {
    name: 'Path',
    options: [
      { id: 'mobile', name: 'mobile', value: 'WIDE1-1,WIDE2-1', goodFor: 'whoever moves, or stands low' },
      {
        id: 'placed',
        name: 'well placed',
        value: 'WIDE2-1',
        goodFor: 'a fixed station that a wide digipeater hears',
      },
      { id: 'dense', name: 'dense country', value: 'WIDE1-1', goodFor: 'many stations and digipeaters near' },
      { id: 'none', name: 'no path', value: 'none', goodFor: 'gateway or listeners in direct reach' },
    ],
  },
  power: {
    name: 'Power',
    options: [
      {
        id: 'enough',
        name: 'enough to be heard',
        value: 'low, then up until it is heard',
        goodFor: 'battery and neighbours',
      },
      { id: 'high', name: 'high', value: 'high', goodFor: 'moving in thin country' },
    ],
  },
  drive: {
    name: 'Drive',
    options: [
      { id: 'clean', name: 'no ALC', value: 'no ALC action at all', goodFor: 'a clean signal; our default' },
      {
        id: 'touching',
        name: 'ALC just moving',
        value: 'ALC up to a third of its scale',
        goodFor: 'what many do to be loud enough',
      },
    ],
  },
} as const satisfies Record<string, School>;

export type SchoolId = keyof typeof SCHOOLS;
export type SchoolChoices = Readonly<Partial<Record<SchoolId, string>>>;

export const isSchoolId = (text: string): text is SchoolId => Object.hasOwn(SCHOOLS, text);

/** The option that was chosen, else the one that suits the chain. */
export function chosenOption(id: SchoolId, choices: SchoolChoices, chain: Chain): SchoolOption {
  const options: readonly SchoolOption[] = SCHOOLS[id].options;
  const wanted = choices[id] ?? suited(id, chain);
  return options.find((option) => option.id === wanted) ?? (options[0] as SchoolOption);
}

/** Sound and VOX decode best with open squelch; where a TNC senses the carrier, the lowest that closes keeps quiet. */
function suited(id: SchoolId, chain: Chain): string | undefined {
  return id === 'squelch' && !isSoundChain(chain) ? 'lowest' : undefined;
}
