import { malformed, type Malformed } from '../bits/malformed.js';
import { base91, fromBase91 } from './base-91.js';
import type { AprsReport, Telemetry, TelemetryDefinition } from './report.js';
import { joinWords } from './text.js';

/** 1.0.1, "Telemetry data": five channels of 0–255 and eight bits; stations in use send more figures and fewer channels. */
const CHANNELS = 5;
const FORM = /^T#(MIC|\d{1,5}),?((?:-?\d*\.?\d*)(?:,-?\d*\.?\d*)*)(.*)$/s;

/** `T#005,199,000,255,073,123,01101001`. */
export function readTelemetry(info: string): AprsReport | Malformed {
  const match = FORM.exec(info);
  if (!match) return malformed('telemetry begins with T# and a sequence number', 1);
  const values = (match[2] as string).split(',');
  const analog = values.slice(0, CHANNELS);
  if (analog.some((value) => !/\d/.test(value)))
    return malformed('a telemetry channel is not a number', info.indexOf(',') + 1);
  const last = values[CHANNELS] ?? '';
  const digital = /^[01]{8}/.exec(last)?.[0];
  if (values.length > CHANNELS && digital === undefined)
    return malformed('the digital channels are eight 0 or 1', info.lastIndexOf(',') + 1);
  const comment = (last.slice(8) + (match[3] as string)).replace(/^,/, '').trim();
  return {
    type: 'telemetry',
    telemetry: {
      sequence: match[1] === 'MIC' ? 'MIC' : Number(match[1]),
      analog: analog.map(Number),
      ...(digital === undefined ? {} : { digital }),
    },
    ...(comment === '' ? {} : { comment }),
  };
}

export function encodeTelemetry({ sequence, analog, digital }: Telemetry, comment = ''): string {
  // `T#MIC` stands without a comma, as the reference prints it.
  const head = sequence === 'MIC' ? 'T#MIC' : `T#${String(sequence).padStart(3, '0')},`;
  const values = analog.map((value) =>
    Number.isInteger(value) && value >= 0 ? String(value).padStart(3, '0') : String(value),
  );
  return head + [...values, ...(digital === undefined ? [] : [digital])].join(',') + comment;
}

/**
 * Base-91 telemetry in a comment, `|ss11223344556677|`: sequence, one to five channels, eight bits (from memory:
 * a published addition of 2012). B1 is the lowest bit.
 */
const IN_COMMENT = /\|((?:[!-{]{2}){2,7})\|/;

export function takeCommentTelemetry(comment: string, into: AprsReport): string {
  const match = IN_COMMENT.exec(comment);
  if (!match) return comment;
  const values = (match[1] as string).match(/../gs)?.map(fromBase91) as [number, ...number[]];
  const [sequence, ...channels] = values;
  const bits = channels[CHANNELS];
  into.telemetry = {
    sequence,
    analog: channels.slice(0, CHANNELS),
    ...(bits === undefined ? {} : { digital: [...Array(8).keys()].map((i) => (bits >> i) & 1).join('') }),
  };
  return joinWords(comment.slice(0, match.index), comment.slice(match.index + match[0].length));
}

export function encodeCommentTelemetry({ sequence, analog, digital }: Telemetry): string {
  const bits =
    digital === undefined ? [] : [[...digital].reduce((sum, bit, i) => sum + (Number(bit) << i), 0)];
  const values = [sequence === 'MIC' ? 0 : sequence, ...analog, ...bits.flat()];
  return `|${values.map((value) => base91(Math.round(value), 2)).join('')}|`;
}

/** 1.0.1, "Telemetry parameter name, unit, coefficient and bit sense messages": the text of a message. */
export function readTelemetryDefinition(text: string): TelemetryDefinition | undefined {
  const match = /^(PARM|UNIT|EQNS|BITS)\.(.*)$/s.exec(text);
  if (!match) return undefined;
  const kind = match[1] as TelemetryDefinition['kind'];
  const fields = (match[2] as string).split(',').map((field) => field.trim());
  if (kind === 'PARM' || kind === 'UNIT') return { kind, names: fields };
  if (kind === 'BITS') {
    const active = /^[01]{1,8}/.exec(fields[0] as string)?.[0];
    if (active === undefined) return undefined;
    const title = (match[2] as string).slice((match[2] as string).indexOf(active) + active.length);
    return { kind, active, title: title.replace(/^,/, '').trim() };
  }
  const figures = fields.map(Number);
  if (fields.some((field) => field === '') || figures.some((value) => !Number.isFinite(value)))
    return undefined;
  const coefficients = [];
  for (let i = 0; i + 2 < figures.length; i += 3) {
    const [a, b, c] = figures.slice(i, i + 3) as [number, number, number];
    coefficients.push({ a, b, c });
  }
  return { kind, coefficients };
}

export function encodeTelemetryDefinition(definition: TelemetryDefinition): string {
  const { kind } = definition;
  switch (kind) {
    case 'PARM':
    case 'UNIT':
      return `${kind}.${definition.names.join(',')}`;
    case 'BITS':
      return `BITS.${definition.active},${definition.title}`;
    case 'EQNS':
      return `EQNS.${definition.coefficients.map(({ a, b, c }) => `${a},${b},${c}`).join(',')}`;
  }
}

/** A channel's value by the station's own equation a·x² + b·x + c. */
export function scaled(count: number, { a, b, c }: { a: number; b: number; c: number }): number {
  return a * count * count + b * count + c;
}
