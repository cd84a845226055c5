import type { HeardPiece } from '@mistpeak/core/diagnosis/facts';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { readRecord } from './views';

/** What came by one link, for judging it. */
export function heardPieces(frames: readonly FrameRecord[], linkId: string, sinceMs = 0): HeardPiece[] {
  return frames
    .filter((one) => one.linkId === linkId && one.direction === 'heard' && one.atMs >= sinceMs)
    .map((one) => ({ atMs: one.atMs, octets: readRecord(one).raw, trouble: one.trouble }));
}
