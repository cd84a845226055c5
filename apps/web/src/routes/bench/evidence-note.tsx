import { X } from 'lucide-react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex } from '@mistpeak/core/bits/octets';
import { decodeFrame } from '@mistpeak/core/ax25/frame';
import { formatMonitorText } from '@mistpeak/core/ax25/monitor-text';
import type { Camp } from '@mistpeak/core/proof/ladder';
import { useNow } from '../../live/now';
import { formatAge, formatClock } from '../../pieces/age';
import { printable } from '../../pieces/frame-way';

/** What lit this camp: the words, the time, and the octets themselves. */
export function EvidenceNote({ camp: { rung, state, evidence }, close }: { camp: Camp; close: () => void }) {
  const nowMs = useNow();
  return (
    <div className="flex gap-3 border-t border-line bg-raise px-5 py-3 text-[14px]">
      <div className="min-w-0 flex-1">
        <h3 className="font-[640]">Evidence for “{rung}”</h3>
        {evidence ? (
          <>
            <p className="text-ink2">
              {evidence.words}, {formatClock(evidence.atMs, 'utc')} UTC, {formatAge(nowMs - evidence.atMs)}{' '}
              ago
              {state === 'faded' ? ': too old to stand' : ''}
              {evidence.rung === rung ? '' : ` (“${evidence.rung}” proves this too)`}
            </p>
            {evidence.rawHex && (
              <p className="font-mono text-[12.5px] break-all text-ink2">{monitorText(evidence.rawHex)}</p>
            )}
          </>
        ) : (
          <p className="text-ink2">
            {state === 'doubtful'
              ? 'A frame was handed to the TNC, and for 30 s nobody repeated it.'
              : 'There is none yet: nothing that happened shows it.'}
          </p>
        )}
      </div>
      <button
        type="button"
        onClick={close}
        aria-label="Close the evidence"
        className="self-start p-1 max-md:min-h-11 max-md:min-w-11"
      >
        <X aria-hidden className="size-4" />
      </button>
    </div>
  );
}

function monitorText(rawHex: string): string {
  const raw = fromHex(rawHex);
  if (isMalformed(raw)) return rawHex;
  const frame = decodeFrame(raw);
  return isMalformed(frame) ? rawHex : printable(formatMonitorText(frame));
}
