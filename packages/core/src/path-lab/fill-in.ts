import type { Lab, Sender } from './lab.js';
import type { LevelTable } from './level-table.js';
import { runLab, type PacketFate } from './run.js';
import { shareOf, type Share } from './share.js';

/** Whether the sender should repeat for others. The others' packets with and without it, on the same channel. */
export interface FillInVerdict {
  readonly verdict: 'helps' | 'harms' | 'changes little';
  readonly words: string;
  readonly without: Share;
  readonly with: Share;
  /** How much longer each of the others' packets holds the channel, as a factor. */
  readonly channelFactor: number;
  /** Who gains most by it. */
  readonly gainers: readonly { readonly call: string; readonly from: Share; readonly to: Share }[];
}

/** More channel time for nothing is harm from here on (our judgement). */
const COSTLY = 1.05;
const MOST_GAINERS = 3;

/** Runs the others' packets twice; yields the share done. packets: of the sender, 10 s apart, which sets how long. */
export function* judgeFillIn(
  lab: Lab,
  sender: Sender,
  table: LevelTable,
  { packets, seed }: { readonly packets: number; readonly seed: number },
): Generator<number, FillInVerdict> {
  const runs: PacketFate[][] = [];
  for (const [i, senderFillsIn] of [false, true].entries()) {
    const run = runLab(lab, sender, table, { path: [], packets, seed, senderFillsIn });
    let next = run.next();
    for (; !next.done; next = run.next()) yield (i + next.value) / 2;
    runs.push(next.value.filter(({ source }) => source > 0));
  }
  return verdictOf(lab, runs[0] as PacketFate[], runs[1] as PacketFate[]);
}

function verdictOf(lab: Lab, before: readonly PacketFate[], after: readonly PacketFate[]): FillInVerdict {
  const hasGateway = lab.stations.some(({ role }) => role === 'gateway');
  const share = (fates: readonly PacketFate[]): Share =>
    shareOf(
      fates.filter(({ gatewayAtMs, repeatedBy }) => (hasGateway ? gatewayAtMs !== undefined : repeatedBy > 0))
        .length,
      fates.length,
    );
  const channel = (fates: readonly PacketFate[]): number =>
    fates.reduce((sum, { channelMs }) => sum + channelMs, 0) / Math.max(1, fates.length);
  const [without, withIt] = [share(before), share(after)];
  const channelFactor = channel(before) === 0 ? 1 : channel(after) / channel(before);
  const verdict =
    withIt.low > without.high
      ? 'helps'
      : withIt.high < without.low || channelFactor > COSTLY
        ? 'harms'
        : 'changes little';
  const gainers = lab.stations
    .map(({ call }, i) => {
      const of = (fates: readonly PacketFate[]): Share =>
        share(fates.filter(({ source }) => source === i + 1));
      return { call, from: of(before), to: of(after) };
    })
    .filter(({ from, to }) => to.low > from.high)
    .sort((a, b) => b.to.share - b.from.share - (a.to.share - a.from.share))
    .slice(0, MOST_GAINERS);
  const words = wordsOf(verdict, without, withIt, channelFactor, hasGateway);
  return { verdict, words, without, with: withIt, channelFactor, gainers };
}

function wordsOf(
  verdict: FillInVerdict['verdict'],
  without: Share,
  withIt: Share,
  channelFactor: number,
  hasGateway: boolean,
): string {
  const goal = hasGateway ? 'reach a gateway' : 'are repeated';
  const shares = `${percent(without.share)} of the others’ packets ${goal} without you, ${percent(withIt.share)} with you as a fill-in`;
  const price = `the channel is held ${channelFactor.toFixed(2)} times as long for each`;
  const meaning = {
    helps: 'It helps',
    harms:
      withIt.high < without.low
        ? 'It harms: your copies fall upon others'
        : 'It harms: it fills the channel and brings nothing',
    'changes little': 'It changes little: leave it off, the channel is everybody’s',
  }[verdict];
  return `${meaning}: ${shares}, and ${price}.`;
}

const percent = (share: number): string => `${(share * 100).toFixed(0)} %`;
