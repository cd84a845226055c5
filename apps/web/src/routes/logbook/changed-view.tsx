import { useState } from 'react';
import type { Area } from '@mistpeak/core/logbook/moment';
import type { Comparison } from '@mistpeak/contract/logbook';
import { useNow } from '../../live/now';
import { useCompared, useWorked } from '../../live/worked';
import { formatAge, formatDay } from '../../pieces/age';
import { ProblemNote } from '../../pieces/problem-note';
import { TimeField } from '../../pieces/time-field';

const AREA_WORDS: Readonly<Record<Area, string>> = {
  channel: 'channel',
  switch: 'switch',
  sheet: 'setup sheet',
  level: 'level',
  link: 'link and TNC',
  part: 'parts',
  firmware: 'firmware',
  identity: 'call and SSID',
  place: 'place',
  beacon: 'beacon',
};
const SHOWN_PROOFS = 12;

/** It worked before: what is otherwise since then? */
export function ChangedView() {
  const nowMs = useNow(60_000);
  const [chosenMs, choose] = useState<number>();
  const [untilMs, setUntil] = useState<number>();
  const worked = useWorked(SHOWN_PROOFS);
  const fromMs = chosenMs ?? worked.value?.entries[0]?.atMs;
  const compared = useCompared(fromMs, untilMs ?? nowMs);
  return (
    <div className="grid gap-x-9 gap-y-5 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="flex min-w-0 flex-col gap-3">
        <p role="status" className="text-[19px] leading-snug font-[620]">
          {fromMs === undefined
            ? 'Nothing has worked yet: there is nothing to compare with.'
            : verdict(compared.value, fromMs, nowMs)}
        </p>
        {compared.problem && <ProblemNote problem={compared.problem} />}
        <Differences compared={compared.value} />
        <p className="max-w-[44rem] text-[13px] text-ink3">
          The order is that in which practitioners look: channel and band first, then switches, the link, the
          sheet and levels, firmware, place. What no program sees: a plug that is not seated, a volume knob,
          another app that holds the TNC in the background, a squelch that was turned.
        </p>
      </div>
      <aside className="flex flex-col gap-3">
        <h2>It worked</h2>
        <ul aria-label="When it worked">
          {worked.value?.entries.map(({ id, kind, atMs, what }) => (
            <li key={`${kind} ${id}`}>
              <button
                type="button"
                aria-pressed={fromMs === atMs}
                onClick={() => choose(atMs)}
                className={`w-full border-l-[3px] px-2.5 py-1 text-left text-[14px] max-md:min-h-11 ${fromMs === atMs ? 'border-proved bg-raise' : 'border-line'}`}
              >
                <span className="font-mono text-[13px] text-ink2">{formatDay(atMs)}</span> {what}
              </button>
            </li>
          ))}
        </ul>
        <TimeField label="Or at" value={fromMs} set={choose} />
        <TimeField label="Compared with" hint="UTC; empty: now" value={untilMs} set={setUntil} />
      </aside>
    </div>
  );
}

function verdict(compared: Comparison | undefined, fromMs: number, nowMs: number): string {
  if (!compared) return 'Comparing …';
  const ago = `${formatAge(nowMs - fromMs)} ago`;
  if (!compared.from) return `Of ${ago} nothing is known: how things were set is kept only since then.`;
  const [first] = compared.differences;
  if (!first && compared.isOfTrial)
    return `The parts of that trial, ${ago}, stand as they stood then; no more is known of it.`;
  if (!first) return `Nothing that Mistpeak sees has changed since it worked, ${ago}.`;
  const subject = first.of === '' ? first.name : `${first.name} of ${first.of}`;
  const count = compared.differences.length;
  return `Since it worked, ${ago}, ${count === 1 ? 'one thing has' : `${count} things have`} changed. Look first at ${subject}.`;
}

function Differences({ compared }: { compared: Comparison | undefined }) {
  const differences = compared?.differences ?? [];
  if (differences.length === 0) return null;
  return (
    <ol aria-label="What has changed">
      {differences.map(({ area, of, name, before, after, suspicion }) => (
        <li
          key={`${area} ${of} ${name}`}
          className="grid grid-cols-[5.5rem_minmax(0,1fr)] items-baseline gap-x-3 border-t border-line py-2"
        >
          <span aria-hidden className="h-2.5 self-center bg-line">
            <span className="block h-full bg-look" style={{ width: `${suspicion * 10}%` }} />
          </span>
          <div className="min-w-0">
            <p className="text-[15px]">
              <b className="font-[620]">{name}</b> {of && <span className="text-ink2">of {of}</span>}{' '}
              <span className="text-[12.5px] text-ink3">{AREA_WORDS[area]}</span>
            </p>
            <p className="text-[14px] break-words">
              <span className="font-mono text-ink2">{before ?? 'not there'}</span> →{' '}
              <span className="font-mono">{after ?? 'no more there'}</span>
            </p>
          </div>
        </li>
      ))}
    </ol>
  );
}
