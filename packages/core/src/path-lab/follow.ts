import type { Ax25Frame, PathHop } from '../ax25/frame.js';
import { hopsAsked, isStationEntry } from '../digipeating/alias.js';
import type { Refusal } from '../digipeating/service.js';
import { hopsOfPath, type Lab, type LabRole, type Sender } from './lab.js';
import type { LevelTable } from './level-table.js';
import { runLab, type Happening } from './run.js';

/** One thing that happened to one packet. hopsLeft: on the copy that is spoken of; monitor: its path as monitor text has it. */
export interface Stage {
  readonly atMs: number;
  readonly call: string;
  readonly kind: 'sent' | 'repeated' | 'let be' | 'gated' | 'lost';
  readonly hopsLeft: number;
  readonly monitor: string;
  readonly words: string;
}

const REFUSAL_WORDS: Record<Refusal | 'had it', string> = {
  'own packet': 'hears its own packet come back, and lets it be',
  'had it': 'has repeated this packet within the last 30 s, and drops the copy',
  'no hop left': 'hears it, and is asked for nothing: no hop is left',
  'another station named': 'hears it, but another station is asked by name',
  'not an alias served here': 'hears it, and does not serve the alias that is next',
  'alias asks for too much': 'refuses it: the alias asks for more hops than its class has',
  'fill-in serves the first hop only':
    'hears it; a fill-in serves WIDE1-1 as the first hop, and nothing else',
};

/** One packet on an empty channel, every level at its average: what each digipeater does with it, in order. */
export function followPacket(
  lab: Lab,
  sender: Sender,
  table: LevelTable,
  path: string,
  seed: number,
): Stage[] {
  const quiet: Lab = {
    ...lab,
    stations: lab.stations.map((station) => ({ ...station, packetsPerHour: 0 })),
  };
  const told: { atMs: number; happening: Happening }[] = [];
  const run = runLab(
    quiet,
    sender,
    table,
    { path: hopsOfPath(path), packets: 1, seed, isWithoutLuck: true },
    (_, atMs, happening) => told.push({ atMs, happening }),
  );
  while (!run.next().done);
  const startMs = told[0]?.atMs ?? 0;
  const gated = new Set<number>();
  return told.flatMap(({ atMs, happening }) => {
    const stage = stageOf(happening, lab, sender, gated);
    return stage ? [{ ...stage, atMs: atMs - startMs }] : [];
  });
}

function stageOf(
  happening: Happening,
  { stations }: Lab,
  sender: Sender,
  gated: Set<number>,
): Omit<Stage, 'atMs'> | undefined {
  const { by, frame } = happening;
  const station = stations[by - 1];
  const call = station?.call ?? sender.call;
  const common = { call, hopsLeft: hopsLeft(frame), monitor: monitorPath(frame.path) };
  if (happening.kind === 'sent')
    return sent(common, frame, by === 0 ? undefined : (station?.role ?? 'fill-in'));
  if (happening.kind === 'lost') {
    if (station?.role === 'station' || !station) return undefined;
    const words =
      happening.reason === 'collision'
        ? 'loses this copy: another one falls upon it'
        : 'loses this copy: it is sending itself';
    return { ...common, kind: 'lost', words };
  }
  if (station?.role === 'gateway') {
    const isFirst = !gated.has(by);
    gated.add(by);
    const words = isFirst
      ? 'passes it on to the internet'
      : 'has had it: the internet keeps the first copy only';
    return { ...common, kind: isFirst ? 'gated' : 'let be', words };
  }
  if (happening.refusal === undefined) return undefined;
  return { ...common, kind: 'let be', words: REFUSAL_WORDS[happening.refusal] };
}

function sent(
  common: Pick<Stage, 'call' | 'hopsLeft' | 'monitor'>,
  frame: Ax25Frame,
  role: LabRole | undefined,
): Omit<Stage, 'atMs'> {
  const left = common.hopsLeft === 0 ? 'no hop is left' : `${counted(common.hopsLeft)} left`;
  if (role === undefined) {
    const asked =
      frame.path.length === 0 ? 'and asks nobody to repeat it' : `and asks for ${counted(common.hopsLeft)}`;
    return { ...common, kind: 'sent', words: `sends it ${asked}` };
  }
  return { ...common, kind: 'repeated', words: `${howRepeated(frame.path, role)}: ${left}` };
}

/** What the one that repeats it does to the path. */
function howRepeated(path: readonly PathHop[], role: LabRole): string {
  const last = path.findLastIndex(({ call, used }) => used && isStationEntry(call));
  const after = path[last + 1];
  if (role === 'fill-in') return 'repeats it, and puts its call in the place of WIDE1-1';
  if (!after || isStationEntry(after.call)) return 'repeats it, asked by name';
  return after.used
    ? `repeats it, signs, and uses up ${after.call}`
    : `repeats it, signs, and leaves ${after.call}`;
}

const counted = (hops: number): string => (hops === 1 ? 'one hop' : `${hops} hops`);
const hopsLeft = ({ path }: Ax25Frame): number => hopsAsked(path.filter(({ used }) => !used));

/** A star behind each entry that is used. */
const monitorPath = (path: readonly PathHop[]): string =>
  path.map(({ call, used }) => (used ? `${call}*` : call)).join(',');
