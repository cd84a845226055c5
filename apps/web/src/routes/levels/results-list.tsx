import type { LevelResult } from '@mistpeak/contract/levels';
import { useLive } from '../../live/store';
import { formatDay } from '../../pieces/age';

/** What the checks came to, the newest first. */
export function ResultsList() {
  const results = useLive((state) => state.levelResults);
  const links = useLive((state) => state.links);
  if (results.length === 0) return null;
  const nameOf = ({ linkId }: LevelResult): string =>
    links.find(({ id }) => id === linkId)?.settings.name ?? 'no link';
  return (
    <section aria-label="Results" className="border-t-[1.5px] border-ink pt-2.5">
      <h2>What was measured before</h2>
      <ul className="flex flex-col text-[14px]">
        {results.slice(0, 12).map((result) => (
          <li
            key={result.id}
            className="grid gap-x-4 border-t border-line py-1.5 md:grid-cols-[11rem_8rem_1fr]"
          >
            <span className="font-mono text-ink2">{formatDay(result.atMs)}</span>
            <span className="text-ink2">{nameOf(result)}</span>
            <span>
              {result.words} <span className="font-mono text-[13px] text-ink2">{result.number}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
