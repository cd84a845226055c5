import type { Outgoing } from './entries.js';

/** How one station answers. */
export interface Correspondent {
  readonly call: string;
  /** Messages to it that wanted an answer and came to their end. */
  readonly ended: number;
  readonly acknowledged: number;
  /** Share of the acknowledged that were so at their first try, 0–1; absent where there are none. */
  readonly firstTryRate?: number;
  /** Median time from the first try to the acknowledgement, ms. */
  readonly usualMs?: number;
  readonly lastAckAtMs?: number;
}

/** By station, the most written to first. A cancelled or expired message says nothing of the other side. */
export function reckonCorrespondents(messages: readonly Outgoing[]): Correspondent[] {
  const counted = messages.filter(
    ({ number, phase }) =>
      number !== undefined && ['acknowledged', 'rejected', 'no answer'].includes(phase.kind),
  );
  const calls = [...new Set(counted.map(({ to }) => to))];
  return calls
    .map((call) =>
      reckonOne(
        call,
        counted.filter(({ to }) => to === call),
      ),
    )
    .sort((a, b) => b.ended - a.ended || a.call.localeCompare(b.call));
}

function reckonOne(call: string, messages: readonly Outgoing[]): Correspondent {
  const acks = messages.flatMap(({ phase, tries }) =>
    phase.kind === 'acknowledged' ? [{ ...phase, atMs: (tries[0]?.atMs ?? 0) + phase.afterMs }] : [],
  );
  const counts = { call, ended: messages.length, acknowledged: acks.length };
  if (acks.length === 0) return counts;
  return {
    ...counts,
    firstTryRate: acks.filter(({ atTry }) => atTry === 1).length / acks.length,
    usualMs: median(acks.map(({ afterMs }) => afterMs)),
    lastAckAtMs: Math.max(...acks.map(({ atMs }) => atMs)),
  };
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  const upper = sorted[middle] as number;
  return sorted.length % 2 === 1 ? upper : ((sorted[middle - 1] as number) + upper) / 2;
}
