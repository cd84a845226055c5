import { METRES_PER_MILE } from '../units/units.js';
import { toneOfWholeHertz } from '../units/tones.js';
import type { AprsReport, Frequency } from './report.js';
import { digits, joinWords } from './text.js';

/**
 * 1.2 addendum, "Frequency specification" (from memory): `FFF.FFFMHz`, then in any order a tone, an offset in 10 kHz,
 * a range, another receive frequency, each of four characters or more behind a blank.
 */
const HEAD = /(?:^|[ /])(\d{3}\.\d{3}|\d{3}\.\d{2} |[A-O]\d{2}\.\d{3}) ?MHz/;
const BURST_HZ = 1750;
const OFFSET_STEP_KHZ = 10;
const KM_PER_MILE = METRES_PER_MILE / 1000;
/** The letter stands for the hundreds of MHz that three digits have no room for (from memory). */
const BANDS_MHZ: Record<string, number> = {
  A: 1200,
  B: 2300,
  C: 2400,
  D: 3400,
  E: 5600,
  F: 5700,
  G: 5800,
  H: 10100,
  I: 10200,
  J: 10300,
  K: 10400,
  L: 10500,
  M: 24000,
  N: 24100,
  O: 24200,
};

/** Each item is read where it stands next; what is none ends the specification. */
const ITEMS: readonly { readonly form: RegExp; readonly read: (match: RegExpExecArray) => Frequency }[] = [
  { form: /^([TtCc])(\d{3})(?!\d)/, read: readTone },
  { form: /^([Dd])(\d{3})(?!\d)/, read: (match) => ({ dcs: match[2] as string, ...narrow(match, 'd') }) },
  { form: /^([Tt])(?:off|OFF)(?![A-Za-z])/, read: (match) => ({ toneOff: true, ...narrow(match, 't') }) },
  { form: /^([1l])750(?!\d)/, read: (match) => ({ toneHz: BURST_HZ, ...narrow(match, 'l') }) },
  {
    form: /^([+-]\d{3})(?![\d.])/,
    read: (match) => ({ offsetKHz: Number(match[1]) * OFFSET_STEP_KHZ }),
  },
  { form: /^R(\d\d)([mk])(?![a-z])/, read: readRange },
  { form: /^(\d{3}\.\d{3})rx/, read: (match) => ({ receiveMHz: Number(match[1]) }) },
];

function readTone(match: RegExpExecArray): Frequency {
  const both = /c/i.test(match[1] as string);
  return {
    toneHz: toneOfWholeHertz(Number(match[2])),
    ...(both ? { toneSquelch: true } : {}),
    ...narrow(match, 't', 'c'),
  };
}

function readRange(match: RegExpExecArray): Frequency {
  return { rangeKm: Number(match[1]) * (match[2] === 'm' ? KM_PER_MILE : 1) };
}

/** A small letter says narrow deviation. */
function narrow(match: RegExpExecArray, ...small: readonly string[]): Frequency {
  return small.includes(match[1] as string) ? { narrow: true } : {};
}

/** In an object's name the bare figure is the frequency where it has the form of one (1.2 addendum). */
export function takeFrequency(comment: string, into: AprsReport): string {
  const named = into.object ? frequencyOfName(into.object.name) : undefined;
  const head = named === undefined ? HEAD.exec(comment) : null;
  if (named === undefined && !head) return comment;
  let frequency: Frequency = { frequencyMHz: named ?? inMHz(head?.[1] as string) };
  const before = head ? comment.slice(0, head.index) : '';
  let rest = head ? comment.slice(head.index + head[0].length) : comment;
  for (let item = nextItem(rest); item; item = nextItem(rest)) {
    frequency = { ...frequency, ...item.found };
    rest = rest.slice(item.length);
  }
  into.frequency = frequency;
  return joinWords(before, rest);
}

function nextItem(text: string): { found: Frequency; length: number } | undefined {
  const blank = text.startsWith(' ') ? 1 : 0;
  for (const { form, read } of ITEMS) {
    const match = form.exec(text.slice(blank));
    if (match) return { found: read(match), length: blank + match[0].length };
  }
  return undefined;
}

/** `145.675`, `145.675md`, `145.67 `: a figure and up to two or three characters behind it. */
function frequencyOfName(name: string): number | undefined {
  const match = /^(\d{3}\.\d{2,3}|[A-O]\d{2}\.\d{2,3})(?:MHz|\D.{0,2})?$/.exec(name.trimEnd());
  return match ? inMHz(match[1] as string) : undefined;
}

function inMHz(text: string): number {
  const band = BANDS_MHZ[text[0] as string];
  return band === undefined ? Number(text) : Number((band + Number(text.slice(1))).toFixed(3));
}

/** inName: the figure stands in an object's name already. */
export function encodeFrequency(frequency: Frequency, inName = false): string {
  const { frequencyMHz, receiveMHz, offsetKHz, rangeKm } = frequency;
  const words = [
    frequencyMHz === undefined || inName ? '' : `${figure(frequencyMHz)}MHz`,
    toneWord(frequency),
    offsetKHz === undefined
      ? ''
      : `${offsetKHz < 0 ? '-' : '+'}${digits(Math.abs(offsetKHz) / OFFSET_STEP_KHZ, 3)}`,
    rangeKm === undefined ? '' : rangeWord(rangeKm),
    receiveMHz === undefined ? '' : `${receiveMHz.toFixed(3)}rx`,
  ];
  return words.filter((word) => word !== '').join(' ');
}

function figure(frequencyMHz: number): string {
  const letter = Object.keys(BANDS_MHZ).find((key) => {
    const above = frequencyMHz - (BANDS_MHZ[key] as number);
    return frequencyMHz >= 1000 && above >= 0 && above < 100;
  });
  return letter === undefined
    ? frequencyMHz.toFixed(3).padStart(7, '0')
    : letter + (frequencyMHz - (BANDS_MHZ[letter] as number)).toFixed(3).padStart(6, '0');
}

function toneWord({ toneHz, dcs, toneOff, toneSquelch, narrow: isNarrow }: Frequency): string {
  const cased = (letter: string): string => (isNarrow ? letter.toLowerCase() : letter);
  if (toneHz === BURST_HZ) return `${isNarrow ? 'l' : '1'}750`;
  if (toneHz !== undefined) return cased(toneSquelch ? 'C' : 'T') + digits(Math.trunc(toneHz), 3);
  if (dcs !== undefined) return cased('D') + dcs;
  return toneOff ? `${cased('T')}off` : '';
}

/** Whole kilometres where they fit exactly, else miles. */
function rangeWord(rangeKm: number): string {
  const miles = rangeKm / KM_PER_MILE;
  return Math.abs(miles - Math.round(miles)) < 1e-6 ? `R${digits(miles, 2)}m` : `R${digits(rangeKm, 2)}k`;
}
