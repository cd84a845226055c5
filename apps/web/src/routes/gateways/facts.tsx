import type { ReactNode } from 'react';
import {
  facilityKey,
  toldFacts,
  type Facility,
  type FacilityFacts,
  type Source,
} from '@mistpeak/core/gateways/facility';
import { byHour, bySeason, type Success } from '@mistpeak/core/gateways/success';
import { formatPlace } from '@mistpeak/core/geo/place';
import type { Position } from '@mistpeak/core/geo/position';
import type { Directory } from '../../live/directory';
import { formatAge, formatDay } from '../../pieces/age';

const NAMES: Readonly<Record<keyof FacilityFacts, string>> = {
  kind: 'What it is',
  call: 'Call',
  frequencyMHz: 'Frequency',
  mode: 'Mode',
  baud: 'Speed',
  position: 'Place',
  heightM: 'Antenna height',
  hours: 'Hours',
  toneHz: 'Tone',
  shiftMHz: 'Shift',
  reliabilityPercent: 'Declared reliability',
  qualityPercent: 'Declared quality',
  notes: 'Notes',
};

const UNITS: Partial<Record<keyof FacilityFacts, string>> = {
  frequencyMHz: 'MHz',
  baud: 'Bd',
  heightM: 'm',
  toneHz: 'Hz',
  shiftMHz: 'MHz',
  reliabilityPercent: '%',
  qualityPercent: '%',
};

export const factName = (fact: keyof FacilityFacts): string => NAMES[fact];

export function factInWords(fact: keyof FacilityFacts, value: unknown): string {
  if (fact === 'position') return formatPlace(value as Position);
  return [String(value), UNITS[fact]].filter(Boolean).join(' ');
}

const BY: Readonly<Record<Source['by'], string>> = {
  file: 'the list',
  paste: 'pasted text',
  heard: 'heard',
  mail: 'the letter',
  hand: 'by hand',
};

export const sourceInWords = ({ by, name, atMs }: Source, nowMs: number): string =>
  `${[BY[by], name].filter(Boolean).join(' ')}, ${formatAge(nowMs - atMs)} ago`;

/** Everything that is told of one, each fact with where it comes from and how old it is, and every try. */
export function Facts({
  facility,
  directory,
  here,
  nowMs,
  children,
}: {
  facility: Facility;
  directory: Directory;
  here: Position;
  nowMs: number;
  children: ReactNode;
}) {
  const attempts = directory.attempts.filter(({ call }) => call === facility.call);
  return (
    <div className="flex flex-col gap-3 border-l-[3px] border-edge bg-raise px-4 py-3">
      <dl
        aria-label={`What is told of ${facilityKey(facility)}`}
        className="grid grid-cols-[9rem_minmax(0,1fr)_minmax(0,14rem)] gap-x-3 gap-y-0.5 text-[14px] max-md:grid-cols-[7rem_minmax(0,1fr)]"
      >
        {toldFacts(facility)
          .filter((fact) => fact !== 'call')
          .map((fact) => {
            const source = facility.sources[fact];
            return (
              <div key={fact} className="contents">
                <dt className="text-ink3">{factName(fact)}</dt>
                <dd className="min-w-0 break-words">{factInWords(fact, facility[fact])}</dd>
                <dd className="text-[13px] text-ink3 max-md:col-start-2">
                  {source ? sourceInWords(source, nowMs) : ''}
                </dd>
              </div>
            );
          })}
      </dl>
      {attempts.length > 0 && (
        <div className="flex flex-wrap gap-x-8 gap-y-2 text-[14px]">
          <Successes label="By hour" successes={byHour(attempts)} />
          <Successes label="By season" successes={bySeason(attempts, here)} />
          <section aria-label="Tries">
            <p className="text-[13px] font-[620]">Last tries</p>
            <ul>
              {attempts.slice(0, 5).map(({ atMs, answered, words }) => (
                <li key={atMs}>
                  <span className="font-mono text-[13px]">{formatDay(atMs)}</span>{' '}
                  {answered ? 'answered' : 'silent'}
                  <span className="text-ink3">{words && `: ${words}`}</span>
                </li>
              ))}
            </ul>
          </section>
        </div>
      )}
      <div className="flex flex-wrap gap-2">{children}</div>
    </div>
  );
}

export function Successes({ label, successes }: { label: string; successes: readonly Success[] }) {
  return (
    <section aria-label={label}>
      <p className="text-[13px] font-[620]">{label}</p>
      <ul>
        {successes.map(({ part, tries, answers }) => (
          <li key={part}>
            <span className="inline-block w-24 font-mono text-[13px]">{part}</span>
            {answers} of {tries}
          </li>
        ))}
      </ul>
    </section>
  );
}
