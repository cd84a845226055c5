import { useState } from 'react';
import {
  exposureOf,
  keyedShareOf,
  GROUPS,
  RULES,
  type Exposure,
  type Group,
  type RuleSet,
} from '@mistpeak/core/exposure/exposure';
import { formatHeight, type UnitSystem } from '@mistpeak/core/units/units';
import type { AntennaSettings } from '@mistpeak/contract/field';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { NumberField, SelectField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import type { Field } from './field-settings';

const GROUP_NAMES: Readonly<Record<Group, string>> = {
  public: 'whoever comes by',
  occupational: 'who works with it and knows',
};
const RULE_NAMES: Readonly<Record<RuleSet, string>> = {
  FCC: 'FCC (47 CFR 1.1310)',
  ICNIRP: 'ICNIRP 2020',
};

/** How far people have to stay from the antenna, by the published method; drawn to scale. */
export function ExposurePart({ field: { values, set }, units }: { field: Field; units: UnitSystem }) {
  const { antenna } = values;
  const change = (part: Partial<AntennaSettings>): void =>
    set({ ...values, antenna: { ...antenna, ...part } });
  const exposure = exposureOf(
    { ...antenna, keyedShare: antenna.keyedPercent / 100 },
    antenna.rule,
    antenna.group,
  );
  const number = (key: keyof AntennaSettings, label: string, hint: string) => (
    <NumberField
      label={label}
      hint={hint}
      value={antenna[key] as number}
      set={(value) => change({ [key]: value ?? NaN })}
    />
  );
  return (
    <div className="grid gap-x-9 gap-y-6 xl:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <p role="status" className="max-w-[46rem] text-[19px] leading-snug font-[620]">
          {exposureInWords(antenna, exposure, units)}
        </p>
        {exposure && !antenna.isHandheld && <ToScale exposure={exposure} units={units} />}
        <p className="max-w-[46rem] text-[14px] text-ink2">
          Power density of the far field, S = 2.56·P·G/(4πR²), with the ground’s usual reflection; 4 in place
          of 2.56 where all of it adds up (FCC OET Bulletin 65). Power is averaged over the limit’s{' '}
          {exposure?.limit.averagedMin ?? 30} minutes. Limits differ: your local rules come first.
        </p>
      </div>
      <OperatorOnly>
        <div className="flex flex-col gap-3">
          <h2>The antenna</h2>
          <Choice
            label="Held in the hand or worn"
            isOn={antenna.isHandheld}
            set={(isHandheld) => change({ isHandheld })}
          />
          <div className="grid grid-cols-2 gap-3">
            {number('frequencyMHz', 'MHz', 'Limits change with it.')}
            {number('powerW', 'Power, W', 'While keyed.')}
            {number('gainDbi', 'Gain, dBi', 'Over isotropic; dBd + 2.15.')}
            {number('feedLossDb', 'Line loss, dB', 'Between set and antenna.')}
            {number('keyedPercent', 'Keyed, %', 'Of the averaging time, at the busiest.')}
          </div>
          <KeyedShare
            averagedMin={exposure?.limit.averagedMin ?? 30}
            use={(keyedPercent) => change({ keyedPercent })}
          />
          <SelectField
            label="Limits"
            value={antenna.rule}
            onChange={({ target }) => change({ rule: target.value as RuleSet })}
          >
            {RULES.map((rule) => (
              <option key={rule} value={rule}>
                {RULE_NAMES[rule]}
              </option>
            ))}
          </SelectField>
          <SelectField
            label="Who is there"
            value={antenna.group}
            onChange={({ target }) => change({ group: target.value as Group })}
          >
            {GROUPS.map((group) => (
              <option key={group} value={group}>
                {GROUP_NAMES[group]}
              </option>
            ))}
          </SelectField>
        </div>
      </OperatorOnly>
    </div>
  );
}

/** From packets that come at an interval: the worst averaging time begins with one of them. */
function KeyedShare({ averagedMin, use }: { averagedMin: number; use: (percent: number) => void }) {
  const [airS, setAir] = useState<number | undefined>(0.7);
  const [everyMin, setEvery] = useState<number | undefined>(2);
  const share = keyedShareOf((airS ?? NaN) * 1000, (everyMin ?? NaN) * 60_000, averagedMin);
  const percent = Math.round(share * 1000) / 10;
  return (
    <section aria-label="Keyed by beacons" className="grid grid-cols-2 gap-3">
      <NumberField label="A packet of, s" value={airS} set={setAir} />
      <NumberField label="every, min" value={everyMin} set={setEvery} />
      <div>
        <Button disabled={!(percent >= 0)} onClick={() => use(percent)}>
          {percent >= 0 ? `Keyed ${percent} %` : 'Two numbers, please'}
        </Button>
      </div>
    </section>
  );
}

export function exposureInWords(
  { isHandheld, rule, frequencyMHz }: AntennaSettings,
  exposure: Exposure | undefined,
  units: UnitSystem,
): string {
  if (isHandheld)
    return 'A set in the hand is too close for any distance: its maker’s figure of absorption counts, with the antenna and pouch it names.';
  if (!exposure)
    return `${RULE_NAMES[rule]} limits no power density at ${Number.isFinite(frequencyMHz) ? `${frequencyMHz} MHz` : 'that frequency'}: its field strengths are to be measured or reckoned otherwise.`;
  if (!Number.isFinite(exposure.distanceM)) return 'A number is missing.';
  const { distanceM, worstM, nearFieldM } = exposure;
  if (worstM < nearFieldM)
    return `The formula gives less than ${distanceOf(nearFieldM, units)}, where it does not hold: keep at least that far, and touch nothing of the antenna.`;
  return `Stay ${distanceOf(distanceM, units)} away, ${distanceOf(worstM, units)} to be sure everywhere.`;
}

const distanceOf = (metres: number, units: UnitSystem): string =>
  units === 'metric' ? `${metres.toFixed(1)} m` : formatHeight(metres, units);

const PERSON_M = 1.75;

/** Antenna, a grown person, and both distances, all of one scale. */
function ToScale({ exposure: { distanceM, worstM }, units }: { exposure: Exposure; units: UnitSystem }) {
  if (!Number.isFinite(worstM) || worstM <= 0) return null;
  const wide = Math.max(worstM * 1.25, 3 * PERSON_M);
  const scale = 600 / wide;
  const ground = 190;
  const person = PERSON_M * scale;
  const marks = [
    { at: distanceM, words: 'with usual reflection', colour: 'var(--look)' },
    { at: worstM, words: 'worst case', colour: 'var(--stop)' },
  ];
  const height = Math.max(ground + 50, person + 60);
  const base = height - 50;
  return (
    <svg
      viewBox={`0 0 660 ${height}`}
      role="img"
      aria-label="The distances drawn to scale"
      className="w-full max-w-[46rem]"
    >
      <line x1="20" y1={base} x2="650" y2={base} stroke="var(--edge)" />
      <line x1="30" y1={base} x2="30" y2={base - Math.max(60, person)} stroke="var(--ink)" strokeWidth="3" />
      {marks.map(({ at, words, colour }, i) => (
        <g key={words}>
          <line
            x1={30 + at * scale}
            y1={base + 4}
            x2={30 + at * scale}
            y2={base - Math.max(60, person)}
            stroke={colour}
            strokeWidth="2"
            strokeDasharray={i === 0 ? '6 4' : undefined}
          />
          <text
            x={30 + at * scale}
            y={base + 20 + 16 * i}
            textAnchor="middle"
            fontSize="13"
            fill="var(--ink)"
          >
            {distanceOf(at, units)}, {words}
          </text>
        </g>
      ))}
      <g stroke="var(--ink2)" strokeWidth="2.5" fill="none">
        <circle cx={30 + worstM * scale + 14} cy={base - person * 0.92} r={person * 0.07} />
        <path
          d={`M ${30 + worstM * scale + 14} ${base - person * 0.85} V ${base - person * 0.45} l ${-person * 0.12} ${person * 0.45} m ${person * 0.12} ${-person * 0.45} l ${person * 0.12} ${person * 0.45}`}
        />
      </g>
    </svg>
  );
}
