import { useRef, useState, type DragEvent } from 'react';
import { isSound, type LinkView } from '@mistpeak/contract/link';
import { USUAL_SOUND_SETUP } from '@mistpeak/contract/sound';
import { isOpen } from '../../live/main-link';
import { lend, takeBack, useLending } from '../../live/lending';
import type { Receiver } from '../../live/sound-at-page';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { ToneMark } from '../../pieces/tone-mark';

/** Where the sound comes from: a link's sound card, any input of this browser, or a file. */
export function InputChoice({ receiver }: { receiver: Receiver }) {
  const state = receiver.use();
  const links = useLive(({ links }) => links).filter((link) => isSound(link.settings));
  const file = useRef<HTMLInputElement>(null);
  const [isOver, setOver] = useState(false);
  const isOn = state.phase === 'listening' || state.phase === 'reading' || state.phase === 'opening';
  const take = (files: FileList | null): void => {
    const [one] = files ?? [];
    if (one) receiver.read(one);
  };
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files);
  };
  return (
    <section
      aria-label="What is heard"
      className={`flex flex-col gap-2 ${isOver ? 'outline-2 outline-proved outline-dashed' : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <div className="flex flex-wrap items-center gap-2">
        {!isOn && (
          <>
            {links
              .filter(({ settings }) => settings.kind === 'page-sound')
              .map((link) => (
                <Button key={link.id} kind="main" onClick={() => void lend(link)}>
                  Listen as {link.settings.name}
                </Button>
              ))}
            {links
              .filter((link) => link.settings.kind === 'sound-card' && isOpen(link))
              .map((link) => (
                <Button key={link.id} kind="main" onClick={() => receiver.look(link)}>
                  Look at {link.settings.name}
                </Button>
              ))}
            <Button
              kind={links.length > 0 ? 'plain' : 'main'}
              onClick={() => void receiver.listen(USUAL_SOUND_SETUP).catch(() => undefined)}
            >
              Listen to the microphone or line input
            </Button>
            <Button onClick={() => file.current?.click()}>Read a recording (WAV)</Button>
            <input
              ref={file}
              type="file"
              accept=".wav,audio/wav,audio/x-wav"
              aria-label="Recording"
              className="sr-only"
              tabIndex={-1}
              onChange={({ target }) => {
                take(target.files);
                target.value = '';
              }}
            />
          </>
        )}
        {isOn && <Button onClick={() => stop(receiver, state.linkId)}>Stop listening</Button>}
        <StateWords receiver={receiver} links={links} />
      </div>
      {state.trouble && <ProblemNote problem={state.trouble} />}
      {state.outputTrouble && <p className="text-[13.5px] text-look">{state.outputTrouble}</p>}
      {state.isSlow && (
        <p className="text-[13.5px] text-look">
          This device is too slow for the decoder that was chosen: the light one reads now.
        </p>
      )}
      {state.lost > 0 && (
        <p className="text-[13.5px] text-look">
          {state.lost === 1 ? 'One frame was' : `${state.lost} frames were`} not sent: too many waited for a
          free channel, or sending was stopped.
        </p>
      )}
      {state.lostSeconds > 0 && state.phase === 'listening' && (
        <p className="text-[13.5px] text-look">
          {state.lostSeconds} s of sound were lost: this device is busy with something else, and packets in
          them too. Close what is not needed.
        </p>
      )}
      {state.missed && (
        <p className="text-[13.5px] text-look">
          The page slept and heard nothing from {clock(state.missed.fromMs)} to {clock(state.missed.toMs)}.
          What was heard before is kept.
        </p>
      )}
    </section>
  );
}

function stop(receiver: Receiver, linkId: string | undefined): void {
  if (linkId && useLending.getState().lendings.has(linkId)) void takeBack(linkId);
  else receiver.stop();
}

const BUSY_WORDS: Readonly<Record<string, string>> = { data: 'packet', voice: 'voice', sound: 'sound' };

function StateWords({ receiver, links }: { receiver: Receiver; links: readonly LinkView[] }) {
  const { phase, name, rateHz, decoder, busy, isKeyed, share, linkId, seconds, waiting } = receiver.use();
  const link = links.find(({ id }) => id === linkId);
  const words: Record<typeof phase, string> = {
    off: '',
    failed: '',
    opening: 'The browser asks for the input …',
    listening: `${name}, ${rateHz} Hz, ${decoder} decoder${link ? `, as ${link.settings.name}` : ''}`,
    reading: `${name}: ${Math.round(100 * (share ?? 0))} % read`,
    read: `${name} is read`,
  };
  if (words[phase] === '') return null;
  return (
    <span className="flex items-center gap-1.5 text-[13.5px] text-ink2">
      {phase === 'listening' && <ToneMark tone={isKeyed || busy ? 'look' : 'proved'} />}
      <span>{words[phase]}</span>
      {phase === 'listening' && (
        <>
          <b className="font-[620] text-ink">
            {isKeyed ? 'transmitting' : (BUSY_WORDS[busy ?? ''] ?? 'channel free')}
          </b>
          <span className="font-mono">{seconds} s heard</span>
          {waiting > 0 && <span>{waiting} to send</span>}
        </>
      )}
    </span>
  );
}

const clock = (ms: number): string => new Date(ms).toISOString().slice(11, 19);
