import { findingsOf, hostOf, type Chain } from './chain.js';
import { isSuccess, lastTrialOf, provedJoints, type Trial, type Word } from './record.js';

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
    case 'chip pin':
    case 'PTT line':
      forIt.push('nothing is keyed by sound');
  }
}

function tellPower(chain: Chain, forIt: string[], against: string[]): void {
  const milliamps = chain.stones.reduce((sum, { item }) => sum + (item.drawMilliamps ?? 0), 0);
  if (milliamps >= 500) against.push(`it draws about ${(milliamps / 1000).toFixed(1)} A from the battery`);
  else if (hostOf(chain) && milliamps === 0) forIt.push('it needs no battery of its own');
}

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

const COUNTED: readonly (readonly [Word, string, string])[] = [
  ['works', 'works', 'work'],
  ['should work', 'should work', 'should work'],
  ['untested', 'has an untested part', 'have an untested part'],
  ['failed', 'failed last time', 'failed last time'],
  ['switches', 'is a switch away', 'are switches away'],
  ['breaks', 'breaks', 'break'],
];

/** How many of each, as said at the top: “2 work, 1 is a switch away, 3 break”. */
export function summary(words: readonly Word[], purpose: string): string {
  const told = COUNTED.flatMap(([word, one, several]) => {
    const count = words.filter((other) => other === word).length;
    return count === 0 ? [] : [`${count} ${count === 1 ? one : several}`];
  });
  return told.length === 0 ? `nothing yet for ${purpose}` : told.join(', ');
}
