import { chainState, findingsOf, hostOf, type Chain } from './chain.js';
import { isSuccess, lastTrialOf, provedJoints, type Trial } from './record.js';

/** Facts that put a chain where it stands, each a clause: for it, and against it. provedAtMs: the last proof of all joints. */
export interface Standing {
  readonly forIt: readonly string[];
  readonly against: readonly string[];
  readonly provedAtMs?: number;
}

/** Why a chain stands where it does: joints, keying, own record, power, cost of mistakes. */
export function standing(chain: Chain, others: readonly Chain[], trials: readonly Trial[]): Standing {
  const forIt: string[] = [];
  const against: string[] = [];
  const fewest = Math.min(...[chain, ...others].map(({ joints }) => joints.length));
  const more = chain.joints.length - fewest;
  if (more === 0) forIt.push('no chain has fewer joints');
  else
    against.push(more === 1 ? 'one joint more than the shortest' : `${more} joints more than the shortest`);
  tellKeying(chain, forIt, against);
  const proved = provedJoints(chain, trials);
  const last = lastTrialOf(chain, trials);
  const isAllProved = proved.length > 0 && proved.every((at) => at !== undefined);
  if (last && !isSuccess(last)) against.push(`the last trial of it: ${last.result}`);
  else if (isAllProved) forIt.push('every joint was proved with these parts');
  else if (proved.some((at) => at !== undefined)) against.push('not all of its joints were tried before');
  else against.push('not tried before');
  tellPower(chain, forIt, against);
  against.push(
    ...findingsOf(chain)
      .filter(({ level }) => level === 'risk')
      .map(({ text }) => text),
  );
  return {
    forIt,
    against,
    ...(isAllProved ? { provedAtMs: Math.min(...proved.map((at) => at ?? Infinity)) } : {}),
  };
}

function tellKeying({ keying }: Chain, forIt: string[], against: string[]): void {
  switch (keying) {
    case undefined:
      return;
    case 'VOX':
      against.push('VOX must hold for every whole packet, and its level must be found');
      return;
    case 'steady tone':
      against.push('a tone on the other channel holds PTT: it must stay out of the voice band');
      return;
    case 'by hand':
      against.push('somebody must press the key for each packet');
      return;
    case 'TNC':
    case 'CAT':
    case 'serial line':
    case 'PTT line':
      forIt.push('nothing is keyed by sound');
  }
}

function tellPower(chain: Chain, forIt: string[], against: string[]): void {
  const milliamps = chain.stones.reduce((sum, { item }) => sum + (item.drawMilliamps ?? 0), 0);
  if (milliamps >= 500) against.push(`it draws about ${(milliamps / 1000).toFixed(1)} A from the battery`);
  else if (hostOf(chain) && milliamps === 0) forIt.push('it needs no battery of its own');
}

const ORDINALS = ['First', 'Second', 'Third', 'Fourth', 'Fifth', 'Sixth', 'Seventh', 'Eighth'];
export const ordinal = (place: number): string => ORDINALS[place] ?? `Number ${place + 1}`;

/** A chain’s name: by its radio and what is special about the way. */
export function chainTitle(chain: Chain): string {
  const [radio] = chain.stones;
  const interfaces = chain.stones
    .filter(({ item }) => item.kind === 'interface')
    .map(({ item }) => item.name);
  const by = interfaces.at(0) ?? chain.stones.find(({ item }) => item.kind === 'cable')?.item.name;
  const host = hostOf(chain);
  if (!host) return `${radio?.item.name ?? ''} alone`;
  return [radio?.item.name, by, host.name].filter(Boolean).join(' – ');
}

/** How many of each state, as said at the top: “2 work, 1 is a switch away, 3 break”. */
export function summary(chains: readonly Pick<Chain, 'joints'>[], purpose: string): string {
  const count = (state: ReturnType<typeof chainState>): number =>
    chains.filter((chain) => chainState(chain) === state).length;
  const [works, switches, breaks] = [count('works'), count('switches'), count('breaks')];
  if (works + switches + breaks === 0) return `nothing yet for ${purpose}`;
  return [
    works > 0 ? `${works} ${works === 1 ? 'works' : 'work'}` : 'none works yet',
    switches > 0 ? `${switches} ${switches === 1 ? 'is a switch away' : 'are switches away'}` : '',
    breaks > 0 ? `${breaks} ${breaks === 1 ? 'breaks' : 'break'}` : '',
  ]
    .filter(Boolean)
    .join(', ');
}
