import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex } from '@mistpeak/core/bits/octets';
import type { FrameView } from '@mistpeak/core/stations/view';
import { isScrap, type FrameRecord } from '@mistpeak/contract/frame';
import { judge, judgeLine } from '../traffic/traffic.service.js';

/** What an entry of the record says, if it is a frame at all. */
export function viewOfRecord(
  record: Pick<FrameRecord, 'rawHex' | 'line' | 'modulo' | 'trouble'>,
): FrameView | undefined {
  if (isScrap(record)) return undefined;
  if (record.line !== undefined) return judgeLine(record.line).view;
  const raw = fromHex(record.rawHex);
  return isMalformed(raw) ? undefined : judge(raw, record.modulo).view;
}
