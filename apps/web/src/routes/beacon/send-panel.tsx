import { useWatch } from 'react-hook-form';
import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { toHex } from '@mistpeak/core/bits/octets';
import { DUPLICATE_MS } from '@mistpeak/core/diagnosis/causes';
import type { BeaconSettings, BeaconView } from '@mistpeak/contract/beacon';
import { FAILURES } from '@mistpeak/contract/failures';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import type { DraftedForm } from '../../live/drafted-form';
import { isOpen, useMainLink } from '../../live/main-link';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { ArmDialog } from '../../pieces/transmit-lock';
import type { Outgoing } from './frame-of';

/** Saves and sends; says what stands in the way. */
export function SendPanel({
  drafted,
  version,
  frame,
  isSaved,
}: {
  drafted: DraftedForm<BeaconSettings>;
  /** Of the saved beacon. */
  version: number | undefined;
  frame: Outgoing | Malformed;
  isSaved: boolean;
}) {
  const link = useMainLink();
  const lock = useLive((state) => (link ? state.locks.get(link.id) : undefined));
  const { form } = drafted;
  const { problem, isBusy, attempt } = useAttempt();
  const source = useWatch({ control: form.control, name: 'source' });
  /** False when a field was refused. */
  const save = async (): Promise<boolean> => {
    if (!(await form.trigger())) return false;
    const settings = form.getValues();
    const { version: _, ...kept } = await command<BeaconView>('PUT', '/beacon', {
      ...settings,
      ...(version === undefined ? {} : { version }),
    });
    drafted.drop(kept);
    return true;
  };
  const send = async (): Promise<void> => {
    if (!link || !(isSaved || (await save()))) return;
    await command('POST', '/beacon/transmissions', { linkId: link.id });
  };
  const canOpen = link !== undefined && isOpen(link);
  const other = lock?.armed && lock.call !== source.trim().toUpperCase() ? lock.call : undefined;
  return (
    <section aria-label="Send" className="flex flex-col gap-2.5 border-t-[1.5px] border-ink pt-2.5">
      <h2>Send</h2>
      {!link && <p className="text-[14px] text-ink2">There is no link yet. Add one on the TNC page.</p>}
      {link && !canOpen && (
        <p className="text-[14px] text-look">
          {FAILURES['link-not-open'].happened} {FAILURES['link-not-open'].try}
        </p>
      )}
      {link && canOpen && !lock?.armed && (
        <p className="text-[14px] text-ink2">
          The transmitter of “{link.settings.name}” is locked. Arm it, then send; an echo from a digipeater
          proves that you were heard.
        </p>
      )}
      {other !== undefined && (
        <p className="text-[14px] text-look">
          The transmitter is armed for <b className="font-mono">{other}</b>, and this beacon carries another
          call. Arm it for this one to send it.
        </p>
      )}
      {lock?.armed && link && <SameWords linkId={link.id} frame={frame} />}
      <div className="flex flex-wrap items-center gap-2">
        {link && canOpen && (!lock?.armed || other !== undefined) ? (
          <ArmDialog link={link} label="Arm the transmitter …" call={source} />
        ) : (
          <Button
            kind="main"
            disabled={isBusy || !canOpen || isMalformed(frame) || drafted.elsewhere !== undefined}
            onClick={() => void attempt(send)}
          >
            Send one beacon
          </Button>
        )}
        <Button
          disabled={isBusy || isSaved || drafted.elsewhere !== undefined}
          onClick={() => void attempt(save)}
        >
          {isSaved ? 'Saved' : 'Save the beacon'}
        </Button>
      </div>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}

/** Digipeaters take the same words for a copy: who sends again at once must know that nobody will repeat it. */
function SameWords({ linkId, frame }: { linkId: string; frame: Outgoing | Malformed }) {
  const nowMs = useNow();
  const rawHex = isMalformed(frame) ? undefined : toHex(frame.raw);
  const last = useLive((state) =>
    state.transmissions.find((one) => one.linkId === linkId && one.rawHex === rawHex),
  );
  if (last?.handedAtMs === undefined) return null;
  const leftMs = DUPLICATE_MS - (nowMs - last.handedAtMs);
  if (leftMs <= 0) return null;
  return (
    <p role="status" className="text-[14px] text-look">
      The same words went out {formatAge(nowMs - last.handedAtMs)} ago: digipeaters drop them as a copy for
      another {formatAge(leftMs)}. Wait, or change the comment.
    </p>
  );
}
