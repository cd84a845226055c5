import { DEMANDS } from '../chain/purpose.js';
import type { SheetContext } from './context.js';

/** What must be borne in mind with this chain. Local rules are always in force, and come first. */
export interface Caution {
  readonly id: string;
  readonly text: string;
}

interface Rule extends Caution {
  readonly applies: (context: SheetContext) => boolean;
}

const transmits = ({ chain }: SheetContext): boolean => DEMANDS[chain.purpose].transmits;
const isSession = ({ chain }: SheetContext): boolean => DEMANDS[chain.purpose].isSession;
const drawsFromBattery = ({ chain }: SheetContext): boolean =>
  chain.stones.some(({ item }) => (item.drawMilliamps ?? 0) > 0);

const RULES: readonly Rule[] = [
  {
    id: 'licence',
    text: 'Only with your licence and your own call sign; your local rules come first.',
    applies: transmits,
  },
  {
    id: 'identify',
    text: 'Identify at least every 10 minutes and at the end, or as your local rules say.',
    applies: transmits,
  },
  {
    id: 'antenna',
    text: 'Antenna or dummy load connected before anything can key. Some programs transmit as soon as they start.',
    applies: transmits,
  },
  {
    id: 'exposure',
    text: 'Keep the distance from the antenna that power, gain and frequency ask for, by your local limits.',
    applies: ({ chain, ...rest }) =>
      transmits({ chain, ...rest }) && (chain.stones[0]?.item.radio?.watts ?? 0) >= 10,
  },
  { id: 'driving', text: 'Never handle the set while driving.', applies: ({ isMoving }) => isMoving },
  {
    id: 'unattended',
    text: 'Automatic and unattended operation has rules of its own.',
    applies: ({ chain }) => ['beacon', 'messages'].includes(chain.purpose),
  },
  {
    id: 'public',
    text: 'Positions that are sent are public.',
    applies: ({ chain }) => ['beacon', 'messages'].includes(chain.purpose),
  },
  {
    id: 'content',
    text: 'No encryption, no business traffic; mind the rules for third parties.',
    applies: isSession,
  },
  {
    id: 'password',
    text: 'A password typed over the air is public; a first password that came in clear: change it.',
    applies: isSession,
  },
  {
    id: 'battery',
    text: 'Battery: fused at both ends of a long run, strapped down, ventilated, no metal across the posts.',
    applies: drawsFromBattery,
  },
  {
    id: 'emergency',
    text: 'Not a substitute for emergency calls.',
    applies: () => true,
  },
];

export const cautionsOf = (context: SheetContext): readonly Caution[] =>
  RULES.filter(({ applies }) => applies(context)).map(({ id, text }) => ({ id, text }));
