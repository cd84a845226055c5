import { useEffect, useMemo } from 'react';
import { concatOctets, fromHex } from '@mistpeak/core/bits/octets';
import { Transcript, type Line } from '@mistpeak/core/terminal/transcript';
import type { SaidView, SessionView } from '@mistpeak/contract/sessions';
import { command } from '../api';
import { keepAsking } from './keep-asking';
import { withSaid } from './slices/sessions';
import { useLive } from './store';

const NOTHING: readonly SaidView[] = [];

/** Everything that was said in a session, asked for once and followed from then on. */
export function useSaid(id: string): readonly SaidView[] | undefined {
  const said = useLive((state) => state.said.get(id));
  const connection = useLive((state) => state.connection);
  const isAsked = said !== undefined;
  useEffect(() => {
    if (connection !== 'open' || useLive.getState().said.has(id)) return;
    // From here on events are gathered; what was before comes with the answer.
    noteSaid(id, NOTHING);
    // Not given up with the page: it is asked for once for all pages.
    keepAsking<SaidView[]>(`/sessions/${id}/said`, (all) => noteSaid(id, all));
  }, [id, connection, isAsked]);
  return said;
}

function noteSaid(id: string, more: readonly SaidView[]): void {
  useLive.setState(({ said }) => ({
    said: new Map(said).set(id, withSaid(said.get(id) ?? NOTHING, more)),
  }));
}

const octetsOf = ({ hex }: SaidView): Uint8Array => fromHex(hex) as Uint8Array;

/** As lines, without what was a file. */
export function useLines(said: readonly SaidView[]): readonly Line[] {
  return useMemo(() => {
    const transcript = new Transcript();
    for (const one of said)
      if (!one.isFile) transcript.add({ side: one.side, atMs: one.atMs, octets: octetsOf(one) });
    return [...transcript.shown()];
  }, [said]);
}

/** Octets of theirs, the last so many. */
export function useTheirs(said: readonly SaidView[], most: number): Uint8Array {
  return useMemo(() => {
    const parts: Uint8Array[] = [];
    let length = 0;
    for (let i = said.length - 1; i >= 0 && length < most; i--) {
      const one = said[i] as SaidView;
      if (one.side !== 'theirs' || one.isFile) continue;
      const octets = octetsOf(one);
      length += octets.length;
      parts.unshift(octets);
    }
    return concatOctets(...parts);
  }, [said, most]);
}

/** What is typed leaves in the order in which it was typed: one request at a time. */
let underway: Promise<unknown> = Promise.resolve();
let typed = 0;

/** isSecret: dots stand for it in the record. */
export function say(id: string, octets: Uint8Array, isSecret = false): Promise<SessionView> {
  const base64 = toBase64(octets);
  // The same letter twice is typed twice.
  const path = `/sessions/${id}/say?n=${Date.now()}-${++typed}`;
  const next = underway.then(() =>
    command<SessionView>('POST', path, { base64, ...(isSecret ? { isSecret } : {}) }),
  );
  underway = next.catch(() => undefined);
  return next;
}

export function toBase64(octets: Uint8Array): string {
  let text = '';
  for (let at = 0; at < octets.length; at += 0x2000)
    text += String.fromCharCode(...octets.subarray(at, at + 0x2000));
  return btoa(text);
}
