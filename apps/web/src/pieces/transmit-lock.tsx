import { useEffect, useState } from 'react';
import { Dialog } from 'radix-ui';
import { useForm } from 'react-hook-form';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { ArmLink } from '@mistpeak/contract/transmitting';
import type { LinkView, LockView } from '@mistpeak/contract/link';
import { command, problemOf } from '../api';
import { useAttempt } from '../live/attempt';
import { useIsWatcher } from '../live/access';
import { useMainLink } from '../live/main-link';
import { useLive } from '../live/store';
import { Button } from './button';
import { TextField } from './field';
import { ProblemNote } from './problem-note';

/** Shown where the transmitter is armed; local rules come first. */
const CAUTIONS = [
  'An antenna or a dummy load is connected.',
  'The radio is on the frequency and band that you mean, and the local band plan allows it.',
  'You hold a licence for it, and the call below is yours. Identify at least every 10 minutes and at the end, or as your local rules say.',
  'Positions that you send are public. No encryption, no business traffic.',
  'Keep people at a distance from the antenna; never handle the set while driving.',
];

/** The transmitter is locked until the operator arms it, on every screen to be seen. */
export function TransmitLock() {
  const link = useMainLink();
  return link ? <LockOf link={link} /> : null;
}

/** The lock of one link: with several radios each has its own. */
export function LockOf({ link }: { link: LinkView }) {
  const lock = useLive((state) => state.locks.get(link.id));
  const isWatcher = useIsWatcher();
  if (isWatcher) return <Watched lock={lock} />;
  return lock?.armed ? <Armed link={link} lock={lock} /> : <ArmDialog link={link} />;
}

/** A watcher sees how the lock stands. */
function Watched({ lock }: { lock: LockView | undefined }) {
  return (
    <span className="flex items-center gap-2 text-ink2">
      <Switch on={lock?.armed ?? false} />
      {lock?.armed ? (
        <>
          Armed as <span className="font-mono">{lock.call}</span>
        </>
      ) : (
        'Receive only'
      )}
    </span>
  );
}

function Armed({ link, lock }: { link: LinkView; lock: LockView }) {
  const { problem, isBusy, attempt } = useAttempt();
  const isThere = useLive((state) => state.connection === 'open');
  /** Presses that have not locked it yet. */
  const [presses, setPresses] = useState(0);
  const path = `/links/${link.id}/lock`;
  useEffect(() => {
    if (presses === 0 || !isThere) return;
    const lockIt = (): Promise<unknown> =>
      command('DELETE', path).catch((error: unknown) => {
        // Only for an answer it is waited.
        if (problemOf(error).reason !== 'server-away') setPresses(0);
        throw error;
      });
    void attempt(lockIt).then((isDone) => isDone && setPresses(0));
    // At each press, and again whenever the server is back.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [presses, isThere]);
  return (
    <>
      <button
        type="button"
        onClick={() => setPresses(presses + 1)}
        className="flex min-h-8 items-center gap-2 rounded-full border-2 border-look bg-raise px-3 font-[640] text-look max-md:min-h-11"
        title="Lock the transmitter"
      >
        <Switch on />
        {isBusy ? (
          'Locking …'
        ) : (
          <>
            Armed as <span className="font-mono">{lock.call}</span>
          </>
        )}
      </button>
      {problem && presses === 0 && <ProblemNote problem={problem} />}
      {presses > 0 && !isBusy && (
        <span role="alert" className="text-[13.5px] font-[620] text-stop">
          Not locked yet: no answer. It is locked as soon as Mistpeak answers; to be sure switch the radio
          off.
        </span>
      )}
    </>
  );
}

function Switch({ on = false }: { on?: boolean }) {
  return (
    <span aria-hidden className={`relative h-4 w-6.5 rounded-full ${on ? 'bg-look' : 'bg-ink3'}`}>
      <span className={`absolute top-0.5 size-3 rounded-full bg-raise ${on ? 'right-0.5' : 'left-0.5'}`} />
    </span>
  );
}

/** Asks for the call in force and says what to check first. */
export function ArmDialog({
  link,
  label = 'Receive only',
  call,
}: {
  link: LinkView;
  label?: string;
  call?: string;
}) {
  const [isOpen, setOpen] = useState(false);
  if (useIsWatcher()) return null;
  return (
    <Dialog.Root open={isOpen} onOpenChange={setOpen}>
      <Dialog.Trigger className="flex min-h-8 items-center gap-2 rounded-full border-[1.5px] border-ink2 px-3 font-[600] whitespace-nowrap max-md:min-h-11">
        <Switch />
        {label}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-40 max-h-[92dvh] w-[min(34rem,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-xl border border-edge bg-sheet p-6"
        >
          <Dialog.Title className="text-[1.2rem] font-[680]">
            Arm the transmitter of “{link.settings.name}”
          </Dialog.Title>
          <ArmForm link={link} call={call} close={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function ArmForm({ link, call, close }: { link: LinkView; call: string | undefined; close: () => void }) {
  const ownCall = useLive(
    ({ ownStations, beacon, operator }) =>
      ownStations.find(({ id }) => id === link.settings.stationId)?.call ??
      beacon?.source ??
      operator?.call ??
      '',
  );
  const { problem, attempt } = useAttempt();
  const { register, handleSubmit, formState } = useForm<ArmLink>({
    resolver: classValidatorResolver(ArmLink),
    defaultValues: { call: call ?? ownCall },
  });
  const isTaken = problem?.reason === 'another-call-in-force';
  const arm = handleSubmit(async ({ call }) => {
    await attempt(async () => {
      // The second press is the answer to the question.
      await command('PUT', `/links/${link.id}/lock`, { call, instead: isTaken });
      close();
    });
  });
  return (
    <form onSubmit={(event) => void arm(event)} className="mt-3 flex flex-col gap-4" noValidate>
      <ul className="flex list-disc flex-col gap-1 pl-5 text-[14px] text-ink2">
        {CAUTIONS.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
      <TextField
        label="Call in force, with its SSID"
        mono
        hint={
          link.standIn
            ? 'This link is a stand-in: a demo call may be used here.'
            : 'Frames with any other call are refused.'
        }
        error={formState.errors.call?.message}
        {...register('call')}
      />
      {problem && <ProblemNote problem={problem} />}
      <p className="text-[13px] text-ink3">
        The lock falls shut by itself after an hour without a transmission.
      </p>
      <div className="flex gap-2">
        <Button type="submit" kind="main" disabled={formState.isSubmitting}>
          {isTaken ? 'Arm for this call instead' : 'Arm the transmitter'}
        </Button>
        <Button onClick={close}>{isTaken ? 'Leave it as it is' : 'Stay receive-only'}</Button>
      </div>
    </form>
  );
}
