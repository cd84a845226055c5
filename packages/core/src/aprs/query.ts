import { malformed, type Malformed } from '../bits/malformed.js';
import { METRES_PER_MILE } from '../units/units.js';
import type { AprsReport, Query } from './report.js';
import { digits } from './text.js';

/** 1.0.1, "Station capabilities, queries and responses": `?APRS?`, perhaps with a circle: ` lat,long,radius in miles`. */
const FORM = /^\?([A-Za-z0-9]{1,10})\?(?: ?(-?\d{1,2}(?:\.\d*)?), *(-?\d{1,3}(?:\.\d*)?), *(\d{1,5}))?/;

export function readQuery(info: string): AprsReport | Malformed {
  const match = FORM.exec(info);
  if (!match) return malformed('a query is ?WORD?', 1);
  const query: Query =
    match[2] === undefined
      ? { name: match[1] as string }
      : {
          name: match[1] as string,
          latitudeDeg: Number(match[2]),
          longitudeDeg: Number(match[3]),
          radiusM: Number(match[4]) * METRES_PER_MILE,
        };
  return { type: 'query', query };
}

export function encodeQuery({ name, latitudeDeg, longitudeDeg, radiusM }: Query): string {
  if (latitudeDeg === undefined || longitudeDeg === undefined) return `?${name}?`;
  // A blank stands where there is no minus (1.0.1, the same chapter).
  const signed = (value: number): string => (value < 0 ? '' : ' ') + value.toFixed(2);
  return `?${name}?${signed(latitudeDeg)},${signed(longitudeDeg).trim()},${digits((radiusM ?? 0) / METRES_PER_MILE, 4)}`;
}

/** A query to one station is the text of a message to it: `?APRSD`, `?APRSH QH1ANR   `. */
export function readDirectedQuery(text: string): Query | undefined {
  const match = /^\?(APRS[A-Z]|PING\?|[A-Z]{2,6}\??)(?: .*)?$/.exec(text);
  return match ? { name: (match[1] as string).replace(/\?$/, '') } : undefined;
}

/** `<IGATE,MSG_CNT=30,LOC_CNT=61`. */
export function readCapabilities(info: string): AprsReport {
  const capabilities = info
    .slice(1)
    .split(',')
    .map((token) => token.trim())
    .filter((token) => token !== '')
    .map((token) => {
      const at = token.indexOf('=');
      return at < 0 ? { name: token } : { name: token.slice(0, at), value: token.slice(at + 1) };
    });
  return { type: 'capabilities', capabilities };
}

export function encodeCapabilities(capabilities: NonNullable<AprsReport['capabilities']>): string {
  return `<${capabilities.map(({ name, value }) => (value === undefined ? name : `${name}=${value}`)).join(',')}`;
}
