import type { ProgramView } from '@mistpeak/contract/programs';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { ToneMark } from '../../pieces/tone-mark';

const WORDS: Record<ProgramView['phase'], string> = {
  stopped: 'stopped',
  starting: 'starting',
  running: 'running',
  stopping: 'stopping',
  failed: 'ended by itself',
};

/** Other modem programs of the server's machine: started and stopped here, described in a file there. */
export function ModemPrograms() {
  const { programs, file, trouble } = useLive((state) => state.programs);
  const { problem, attempt } = useAttempt();
  if (programs.length === 0 && !trouble) return null;
  const act = (name: string, what: 'start' | 'stop'): void =>
    void attempt(() => command('POST', `/programs/${encodeURIComponent(name)}/${what}`));
  return (
    <section
      aria-label="Modem programs"
      className="mt-4 border-t border-line px-6 pt-3 text-[14px] max-md:px-4"
    >
      <h2>Other modem programs</h2>
      {trouble && (
        <p className="pt-1 text-look">
          {file}: {trouble}.
        </p>
      )}
      <ul className="flex flex-col gap-2 pt-1.5">
        {programs.map(({ name, phase, said, why, card }) => (
          <li key={name} className="flex flex-col gap-1">
            <p className="flex items-center gap-1.5">
              <ToneMark tone={phase === 'running' ? 'proved' : phase === 'failed' ? 'look' : 'quiet'} />
              <b className="font-[620]">{name}</b> {WORDS[phase]}
            </p>
            {card && <p className="text-[13px] break-all text-ink2">takes {card}</p>}
            {why && <p className="text-look">{why}</p>}
            {said.length > 0 && <p className="truncate font-mono text-[12.5px] text-ink2">{said.at(-1)}</p>}
            {phase === 'running' || phase === 'starting' ? (
              <Button className="self-start" onClick={() => act(name, 'stop')}>
                Stop {name}
              </Button>
            ) : (
              <Button
                className="self-start"
                disabled={phase === 'stopping'}
                onClick={() => act(name, 'start')}
              >
                Start {name}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}
