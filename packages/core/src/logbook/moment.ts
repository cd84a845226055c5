/** What a fact belongs to. */
export const AREAS = [
  'channel',
  'switch',
  'sheet',
  'level',
  'link',
  'part',
  'firmware',
  'identity',
  'place',
  'beacon',
] as const;
export type Area = (typeof AREAS)[number];

/** One thing as it was set or measured. of: the radio, the link, the step it belongs to. */
export interface Fact {
  readonly area: Area;
  readonly of: string;
  readonly name: string;
  readonly value: string;
}

/** Everything at one time. */
export type Moment = readonly Fact[];

/** What is otherwise now; a side that is absent: it was not there. suspicion: 0–10, how often it is the reason. */
export interface Difference {
  readonly area: Area;
  readonly of: string;
  readonly name: string;
  readonly before?: string;
  readonly after?: string;
  readonly suspicion: number;
}

/** "It worked yesterday": looked at in this order (common practice, no source). */
const SUSPICION: Readonly<Record<Area, number>> = {
  channel: 10,
  switch: 9,
  sheet: 7,
  level: 6,
  link: 8,
  part: 6,
  firmware: 5,
  identity: 4,
  place: 3,
  beacon: 2,
};
/** A level wanders so far by itself, dB; a change that is this many times greater is all that it can be suspected of. */
const LEVEL_WANDERS_DB = 1.5;
const LEVEL_FULL_TIMES = 4;

const keyOf = ({ area, of, name }: Fact): string => `${area}\n${of}\n${name}`;

/** What is otherwise in the second, the most suspect first; of the same suspicion in alphabetical order. */
export function differences(before: Moment, after: Moment): Difference[] {
  const earlier = new Map(before.map((fact) => [keyOf(fact), fact]));
  const later = new Map(after.map((fact) => [keyOf(fact), fact]));
  return [...new Set([...earlier.keys(), ...later.keys()])]
    .flatMap((key): Difference[] => {
      const [was, is] = [earlier.get(key), later.get(key)];
      const { area, of, name } = (was ?? is) as Fact;
      const suspicion = suspicionOf(area, was?.value, is?.value);
      if (was?.value === is?.value || suspicion === 0) return [];
      return [
        {
          ...{ area, of, name, suspicion },
          ...(was ? { before: was.value } : {}),
          ...(is ? { after: is.value } : {}),
        },
      ];
    })
    .sort((a, b) => b.suspicion - a.suspicion || (`${a.of} ${a.name}` < `${b.of} ${b.name}` ? -1 : 1));
}

function suspicionOf(area: Area, before: string | undefined, after: string | undefined): number {
  const full = SUSPICION[area];
  if (area !== 'level' || before === undefined || after === undefined) return full;
  const changeDb = Math.abs(Number.parseFloat(after) - Number.parseFloat(before));
  if (Number.isNaN(changeDb)) return full;
  if (changeDb < LEVEL_WANDERS_DB) return 0;
  return full * Math.min(1, changeDb / (LEVEL_WANDERS_DB * LEVEL_FULL_TIMES));
}

/** `FM mobile, KISS: on → off`. */
export function inWords({ of, name, before, after }: Difference): string {
  const subject = of === '' ? name : `${of}, ${name}`;
  if (before === undefined) return `${subject}: ${after} (new)`;
  if (after === undefined) return `${subject}: no more (was ${before})`;
  return `${subject}: ${before} → ${after}`;
}
