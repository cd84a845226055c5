import type { ConflictView } from '@mistpeak/contract/gateways';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { factInWords, factName, sourceInWords } from './facts';

const SHOWN = 12;

/** Where two sources tell differently: what was known stays until it is decided. */
export function Conflicts({ conflicts }: { conflicts: readonly ConflictView[] }) {
  const { problem, isBusy, attempt } = useAttempt();
  const nowMs = useNow(60_000);
  if (conflicts.length === 0) return null;
  const decide = (id: string, takes: 'known' | 'told'): void =>
    void attempt(() => command('PUT', '/gateways/conflicts', { id, takes }));
  return (
    <section
      aria-label="Told differently"
      className="flex max-w-[60rem] flex-col gap-2 border-l-[4px] border-look bg-raise px-4 py-3 print:hidden"
    >
      <h2>
        {conflicts.length === 1
          ? 'One fact is told differently'
          : `${conflicts.length} facts are told differently`}
      </h2>
      <ul>
        {conflicts.slice(0, SHOWN).map(({ id, key, fact, known, told, knownBy, source }) => (
          <li
            key={id}
            className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-t border-line py-1.5 text-[14px]"
          >
            <b className="font-mono">{key}</b>
            <span>{factName(fact)}</span>
            <OperatorOnly>
              <Button disabled={isBusy} onClick={() => decide(id, 'known')}>
                Keep {factInWords(fact, known)}
              </Button>
            </OperatorOnly>
            <span className="text-[13px] text-ink3">{knownBy ? sourceInWords(knownBy, nowMs) : ''}</span>
            <OperatorOnly>
              <Button disabled={isBusy} onClick={() => decide(id, 'told')}>
                Take {factInWords(fact, told)}
              </Button>
            </OperatorOnly>
            <span className="text-[13px] text-ink3">{source ? sourceInWords(source, nowMs) : ''}</span>
          </li>
        ))}
      </ul>
      {conflicts.length > SHOWN && (
        <p className="text-[14px] text-ink2">and {conflicts.length - SHOWN} more</p>
      )}
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}
