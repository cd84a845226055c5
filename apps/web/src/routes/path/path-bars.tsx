import { hopsIn, type PathResult } from '@mistpeak/core/path-lab/compare';
import { named } from '@mistpeak/core/path-lab/advice';
import { formatSeconds } from '../../pieces/age';

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** The paths as small multiples on the same axes: reached within three tries with its bounds, and what it takes of the channel. */
export function PathBars({
  results,
  recommended,
  chosen,
  choose,
}: {
  results: readonly PathResult[];
  recommended: string | undefined;
  chosen: string;
  choose: (path: string) => void;
}) {
  const mostMs = Math.max(...results.map(({ channelMs }) => channelMs));
  const goal = results[0]?.goal === 'digipeater' ? 'Repeated' : 'At a gateway';
  return (
    <table
      className="w-full table-fixed border-separate border-spacing-y-0 text-left text-[14px]"
      data-testid="paths"
    >
      <caption className="sr-only">Each path: how often it reaches its goal, and what it costs</caption>
      <thead className="text-[12.5px] text-ink3">
        <tr>
          <th scope="col" className="w-44 py-1 font-[500] max-md:w-36">
            Path
          </th>
          <th scope="col" className="font-[500]">
            {goal} within three tries <span className="max-md:hidden">(tick: first try)</span>
          </th>
          <th scope="col" className="w-44 font-[500] max-md:hidden">
            Channel, a packet
          </th>
          <th scope="col" className="w-16 text-right font-[500] max-md:hidden">
            Delay
          </th>
        </tr>
      </thead>
      <tbody>
        {results.map((result) => (
          <PathRow
            key={result.path}
            result={result}
            mostMs={mostMs}
            isRecommended={result.path === recommended}
            isChosen={result.path === chosen}
            choose={() => choose(result.path)}
          />
        ))}
      </tbody>
    </table>
  );
}

function PathRow({
  result: { path, withinThree, firstTry, channelMs, copies, delayMs },
  mostMs,
  isRecommended,
  isChosen,
  choose,
}: {
  result: PathResult;
  mostMs: number;
  isRecommended: boolean;
  isChosen: boolean;
  choose: () => void;
}) {
  return (
    <tr className={isChosen ? 'bg-raise' : ''} data-path={path}>
      <th scope="row" className="border-t border-line py-2 pr-3 pl-1 font-[500]">
        <button
          type="button"
          aria-pressed={isChosen}
          onClick={choose}
          className="text-left font-mono text-[13.5px] whitespace-nowrap underline-offset-4 hover:underline aria-pressed:font-[700] max-md:min-h-11"
        >
          {named(path)}
        </button>
        <span className="block text-[12.5px] text-ink3">
          {isRecommended ? <b className="text-proved">recommended here</b> : hopsText(hopsIn(path))}
        </span>
      </th>
      <td className="border-t border-line py-2 pr-3">
        <div className="flex items-center gap-3 max-md:flex-col max-md:items-stretch max-md:gap-0.5">
          <Bounds share={withinThree} first={firstTry.share} isRecommended={isRecommended} />
          <span className="shrink-0 md:w-32 font-mono text-[13px]">
            {percent(withinThree.share)}
            <span className="block text-[12px] text-ink3">
              {Math.round(withinThree.low * 100)} to {percent(withinThree.high)}
              <br className="max-md:hidden" /> first {percent(firstTry.share)}
            </span>
          </span>
        </div>
      </td>
      <td className="border-t border-line py-2 pr-4 max-md:hidden">
        <div
          aria-hidden
          className="h-2.5 rounded-sm bg-ink3"
          style={{ width: `${(channelMs / mostMs) * 100}%` }}
        />
        <span className="font-mono text-[12.5px]">
          {formatSeconds(channelMs)}, {copies.toFixed(1)} transmissions
        </span>
      </td>
      <td className="border-t border-line py-2 text-right font-mono text-[12.5px] whitespace-nowrap max-md:hidden">
        {delayMs ? formatSeconds(delayMs.median) : '–'}
      </td>
    </tr>
  );
}

/** A bar to the share, the bounds as a whisker, the first try as a tick. */
function Bounds({
  share: { share, low, high },
  first,
  isRecommended,
}: {
  share: PathResult['withinThree'];
  first: number;
  isRecommended: boolean;
}) {
  const x = (value: number): string => `${value * 100}%`;
  return (
    <svg aria-hidden className="h-6 w-full min-w-0 md:flex-1" preserveAspectRatio="none">
      <line x1="0" x2="100%" y1="12" y2="12" stroke="var(--line)" />
      {[0, 0.5, 1].map((at) => (
        <line key={at} x1={x(at)} x2={x(at)} y1="2" y2="22" stroke="var(--line)" />
      ))}
      <rect
        x="0"
        y="8"
        width={x(share)}
        height="8"
        fill={isRecommended ? 'var(--provedfill)' : 'var(--r3)'}
      />
      <line x1={x(low)} x2={x(high)} y1="12" y2="12" stroke="var(--ink)" strokeWidth="1.5" />
      <line x1={x(first)} x2={x(first)} y1="4" y2="20" stroke="var(--ink)" strokeWidth="2.5" />
    </svg>
  );
}

const hopsText = (hops: number): string =>
  hops === 0 ? 'direct only' : hops === 1 ? 'one hop' : `${hops} hops`;
