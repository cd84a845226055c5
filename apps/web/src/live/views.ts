import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { fromHex } from '@mistpeak/core/bits/octets';
import type { PathHop } from '@mistpeak/core/ax25/frame';
import { readInternetWay } from '@mistpeak/core/digipeating/internet-way';
import { explainPath, type ExplainedPath } from '@mistpeak/core/digipeating/explain';
import { bitsOnAir } from '@mistpeak/core/hdlc/air-time';
import { viewFrame, viewLine, type FrameView } from '@mistpeak/core/stations/view';
import { isScrap, type FrameRecord } from '@mistpeak/contract/frame';

/** A record as the page reads it. bits: on the air with flags and stuffing, without TXDELAY and tail. */
export interface ReadFrame {
  readonly raw: Uint8Array;
  readonly bits: number;
  readonly view: (FrameView & { readonly path: ExplainedPath }) | Malformed;
}

const readings = new Map<string, ReadFrame>();
const MOST_READINGS = 2000;

/** Core's view of a record, made once. */
export function readRecord(record: FrameRecord): ReadFrame {
  const known = readings.get(record.id);
  if (known) return known;
  const reading = read(record);
  if (readings.size >= MOST_READINGS) readings.clear();
  readings.set(record.id, reading);
  return reading;
}

/** What stands behind a q construct tells of the internet, not of hops. */
function onRadio(path: readonly PathHop[]): readonly PathHop[] {
  const construct = path.findIndex(({ call }) => readInternetWay([call]) !== undefined);
  return construct < 0 ? path : path.slice(0, construct);
}

function read(record: FrameRecord): ReadFrame {
  const octets = fromHex(record.rawHex);
  const raw = isMalformed(octets) ? new Uint8Array() : octets;
  if (isScrap(record)) return { raw, bits: 0, view: { malformed: record.trouble ?? '', at: 0 } };
  const view = record.line === undefined ? viewFrame(raw, record.modulo) : viewLine(record.line);
  // What came by the internet held no channel.
  const bits = record.line === undefined ? bitsOnAir(raw) : 0;
  if (isMalformed(view)) return { raw, bits, view };
  return {
    raw,
    bits,
    view: { ...view, path: explainPath(onRadio(view.frame.path), view.report?.thirdParty) },
  };
}
