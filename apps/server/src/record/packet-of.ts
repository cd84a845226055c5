import type { HeardPacket } from '@mistpeak/core/listening/heard-packet';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { viewOfRecord } from './view-of-record.js';

/** An entry of the record as core's listening reads it; undefined where it is no frame. */
export function packetOf(record: FrameRecord): HeardPacket | undefined {
  const view = viewOfRecord(record);
  if (!view) return undefined;
  const { id, atMs, rawHex, origin, direction } = record;
  return {
    id,
    atMs,
    frame: view.frame,
    report: view.report,
    octets: rawHex.length / 2,
    byInternet: origin === 'internet',
    isSent: direction === 'sent',
  };
}
