import { ToneMark } from '../../pieces/tone-mark';

interface Told {
  readonly sentence: string;
  readonly number: string;
  readonly turn: string;
  /** The most serious first, which is the sentence itself; none: all is well. */
  readonly findings: readonly {
    readonly kind: string;
    readonly words: string;
    readonly number: string;
    readonly turn: string;
  }[];
}

/** One verdict in words, the number behind it, what to turn; what else was found stands below. */
export function VerdictCard({ verdict }: { verdict: Told }) {
  const [, ...others] = verdict.findings;
  const isGood = verdict.findings.length === 0;
  return (
    <div
      role="status"
      aria-label="Verdict"
      className={`flex flex-col gap-1.5 border-l-[3px] bg-raise px-3 py-2.5 ${isGood ? 'border-proved' : 'border-look'}`}
    >
      <p className="flex items-start gap-2 text-[1.15rem] leading-snug font-[650]">
        <span className="mt-1.5">
          <ToneMark tone={isGood ? 'proved' : 'look'} />
        </span>
        {verdict.sentence}
      </p>
      {verdict.number && <p className="font-mono text-[13.5px] text-ink2">{verdict.number}</p>}
      {verdict.turn && <p className="text-[14.5px]">{verdict.turn}</p>}
      {others.length > 0 && (
        <ul className="mt-1 flex flex-col gap-1 border-t border-line pt-1.5 text-[13.5px]">
          {others.map(({ kind, words, number, turn }) => (
            <li key={kind}>
              <b className="font-[620]">{words}</b> <span className="font-mono text-ink2">{number}</span>
              <span className="block text-ink2">{turn}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** A verdict without findings of its own. */
export const told = (isGood: boolean, sentence: string, number = '', turn = ''): Told => ({
  sentence,
  number,
  turn,
  findings: isGood ? [] : [{ kind: sentence, words: sentence, number, turn }],
});
