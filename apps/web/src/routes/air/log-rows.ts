import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { foldCopies } from '@mistpeak/core/listening/copies';
import { fits } from '@mistpeak/core/listening/filter';
import { wayWords, type HeardPacket } from '@mistpeak/core/listening/heard-packet';
import type { Problem } from '@mistpeak/contract/failures';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { SearchPage } from '@mistpeak/contract/search';
import { command, problemOf } from '../../api';
import { readRecord } from '../../live/views';
import { filterOf, isNothingAsked, queryOf, type WrittenFilter } from './log-filter';

/** Entries of the log that are one packet, or one that could not be read; the copies in the order in which they came. */
export interface LogGroup {
  readonly first: FrameRecord;
  readonly copies: readonly FrameRecord[];
}

interface RecordPacket extends HeardPacket {
  readonly record: FrameRecord;
}

export function packetOf(record: FrameRecord): RecordPacket | undefined {
  const { view, raw } = readRecord(record);
  if (isMalformed(view)) return undefined;
  return {
    record,
    id: record.id,
    atMs: record.atMs,
    frame: view.frame,
    report: view.report,
    octets: raw.length,
    byInternet: record.origin === 'internet',
    isSent: record.direction === 'sent',
  };
}

/** `direct`, `QH1TOP`, `internet`, `sent`. */
export function wayOfCopy(record: FrameRecord): string {
  const packet = packetOf(record);
  return packet ? wayWords(packet) : 'not read';
}

/** rows: oldest first; the groups newest first. */
export function groupsOf(rows: readonly FrameRecord[], folds: boolean): readonly LogGroup[] {
  const alone = (record: FrameRecord): LogGroup => ({ first: record, copies: [record] });
  if (!folds) return rows.map(alone).reverse();
  const packets = rows.flatMap((record) => packetOf(record) ?? []);
  const unread = rows.filter((record) => packetOf(record) === undefined).map(alone);
  const folded = foldCopies(packets).map(({ first, copies }): LogGroup => ({
    first: first.record,
    copies: copies.map(({ record }) => record),
  }));
  return [...folded, ...unread].sort(
    (a, b) => b.first.atMs - a.first.atMs || (a.first.id < b.first.id ? 1 : -1),
  );
}

export const isSameGroup = (a: LogGroup, b: LogGroup): boolean =>
  a.copies.length === b.copies.length && a.copies.every((copy, i) => copy === b.copies[i]);

export interface LogRowsFound {
  /** Oldest first. */
  readonly rows: readonly FrameRecord[];
  readonly isSearching: boolean;
  /** There is nothing further back. */
  readonly isComplete: boolean;
  readonly lookedBackToMs: number | undefined;
  readonly problem: Problem | undefined;
  readonly further: () => void;
}

interface Found {
  /** Of which filter. */
  readonly query: string;
  /** Newest first. */
  readonly frames: readonly FrameRecord[];
  readonly next: SearchPage['next'];
  readonly isComplete: boolean;
}

/** Without a filter what is at hand, and what was looked up further back; with one what fits of all that is kept, and what comes. */
export function useLogRows(
  live: readonly FrameRecord[],
  written: WrittenFilter,
  operator: OperatorView,
): LogRowsFound {
  const isAsked = !isNothingAsked(written);
  const query = queryOf(written);
  const [found, setFound] = useState<Found>();
  const [problem, setProblem] = useState<Problem>();
  const [isSearching, setSearching] = useState(false);
  const asking = useRef<AbortController>(undefined);
  const look = useCallback(
    async (wanted: string, known: Found | undefined, before: string): Promise<void> => {
      asking.current?.abort();
      const mine = new AbortController();
      asking.current = mine;
      setSearching(true);
      setProblem(undefined);
      try {
        const page = await command<SearchPage>(
          'GET',
          `/record/search?${wanted}${before}`,
          undefined,
          mine.signal,
        );
        setFound({
          query: wanted,
          frames: [...(known?.frames ?? []), ...page.frames],
          next: page.next,
          isComplete: page.isComplete,
        });
      } catch (error) {
        if (!mine.signal.aborted) setProblem(problemOf(error));
      } finally {
        if (asking.current === mine) setSearching(false);
      }
    },
    [],
  );
  useEffect(() => {
    if (!isAsked) return;
    const timer = setTimeout(() => void look(query, undefined, ''), 150);
    return () => clearTimeout(timer);
  }, [isAsked, query, look]);
  const current = found?.query === query ? found : undefined;
  const rows = useMemo(() => {
    const filter = filterOf(written);
    const looker = { position: operator.position ?? undefined, call: operator.call };
    const wanted = isAsked
      ? live.filter((record) => {
          const packet = packetOf(record);
          return packet !== undefined && fits(filter, packet, looker);
        })
      : live;
    const known = new Set(wanted.map(({ id }) => id));
    const older = [...(current?.frames ?? [])].reverse().filter(({ id }) => !known.has(id));
    return [...older, ...wanted];
  }, [live, current, isAsked, written, operator]);
  const further = (): void => {
    const oldest = rows[0];
    const next = current?.next ?? (oldest ? { beforeMs: oldest.atMs, beforeId: oldest.id } : undefined);
    if (!next) return;
    const id = next.beforeId === undefined ? '' : `&beforeId=${next.beforeId}`;
    void look(query, current, `&beforeMs=${next.beforeMs}${id}`);
  };
  return {
    rows,
    isSearching,
    isComplete: current?.isComplete ?? (isAsked ? true : live.length === 0),
    lookedBackToMs: current?.next?.beforeMs,
    problem,
    further,
  };
}
