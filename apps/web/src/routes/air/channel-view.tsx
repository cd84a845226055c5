import { useEffect, useState } from 'react';
import { Bar, BarChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { Link } from 'react-router';
import type { Cost } from '@mistpeak/core/listening/channel-health';
import type { ChannelHealth } from '@mistpeak/contract/listening';
import type { Problem } from '@mistpeak/contract/failures';
import { keepAsking } from '../../live/keep-asking';
import { useMainLink } from '../../live/main-link';
import { formatClock, formatSeconds } from '../../pieces/age';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';
import { TICK, TOOLTIP } from '../../pieces/chart-looks';

const SPANS = { 15: '15 minutes', 60: 'hour', 360: '6 hours', 1440: 'day' } as const;
const ASKED_EVERY_MS = 30_000;
const DEAREST = 3;
const MOST_ROWS = 12;

/** How the channel fares: what holds it, what that costs, what breaks the rules, said kindly. */
export default function ChannelView() {
  const link = useMainLink();
  const [minutes, setMinutes] = useState<number>(60);
  const [health, setHealth] = useState<ChannelHealth>();
  const [problem, setProblem] = useState<Problem>();
  const id = link?.id;
  useEffect(() => {
    if (id === undefined) return;
    return keepAsking(`/listening/health/${id}?minutes=${minutes}`, setHealth, setProblem, ASKED_EVERY_MS);
  }, [id, minutes]);
  return (
    <section aria-label="Channel" className="flex flex-col gap-4 px-6 py-4 max-md:px-4">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h2>Channel</h2>
        <p className="text-[14px] text-ink2">{health ? sentence(health) : 'Looking through the record …'}</p>
        <label className="ml-auto text-[13.5px] text-ink2">
          The last{' '}
          <select
            value={minutes}
            onChange={({ target }) => setMinutes(Number(target.value))}
            className="ml-1 rounded-md border border-edge bg-raise px-2 py-0.5 text-ink max-md:min-h-11"
          >
            {Object.entries(SPANS).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </label>
      </div>
      {!link && <p className="text-ink2">There is no link yet: the channel is heard by one.</p>}
      {problem && <ProblemNote problem={problem} />}
      {health && <Health health={health} />}
    </section>
  );
}

function sentence({ minutes, senders, fromMs, untilMs }: ChannelHealth): string {
  const use = minutes.reduce((sum, share) => sum + share, 0) / Math.max(1, minutes.length);
  const most = Math.max(0, ...minutes);
  const all = senders.reduce((sum, { airMs }) => sum + airMs, 0);
  const dear = senders.slice(0, DEAREST).reduce((sum, { airMs }) => sum + airMs, 0);
  if (all === 0) return 'Nothing was heard in this time.';
  const names = senders.slice(0, DEAREST).map(({ name }) => name);
  const cost = percent(dear / all);
  return `Held ${percent(use)} of the time, at most ${percent(most)} in a minute; ${names.join(', ')} cost ${cost} of that, copies counted (${formatClock(fromMs, 'utc').slice(0, 5)} to ${formatClock(untilMs, 'utc').slice(0, 5)} UTC).`;
}

const percent = (share: number): string => `${Math.round(100 * share)} %`;

function Health({ health }: { health: ChannelHealth }) {
  const { fromMs, minutes, senders, ways, misuse, digipeaters, runOver } = health;
  const bars = minutes.map((share, i) => ({
    time: formatClock(fromMs + i * 60_000, 'utc').slice(0, 5),
    share: Math.round(1000 * share) / 10,
  }));
  return (
    <>
      <figure>
        <figcaption className="text-[13.5px] font-[620]">Held, percent of each minute</figcaption>
        <div className="h-36" aria-hidden>
          <ResponsiveContainer width="100%" height="100%">
            <BarChart
              data={bars}
              accessibilityLayer={false}
              margin={{ top: 4, right: 4, bottom: 0, left: -24 }}
              barCategoryGap={1}
            >
              <XAxis dataKey="time" minTickGap={40} tick={TICK} stroke="var(--edge)" />
              <YAxis tick={TICK} stroke="var(--edge)" />
              <Tooltip {...TOOLTIP} />
              <Bar dataKey="share" name="% held" fill="var(--r4)" isAnimationActive={false} />
            </BarChart>
          </ResponsiveContainer>
        </div>
      </figure>
      <div className="grid gap-6 lg:grid-cols-2">
        <Costs
          title="Who costs the channel"
          about="with all copies that were heard here"
          costs={senders}
          isStation
        />
        <Costs title="By which way" about="each copy by its own" costs={ways} />
      </div>
      <div className="grid gap-6 lg:grid-cols-2">
        <section aria-label="Against the rules">
          <h3 className="text-[1.05rem] font-[650]">Against the rules</h3>
          {misuse.length === 0 ? (
            <p className="text-[14px] text-ink2">Nothing: every path keeps to the published rule.</p>
          ) : (
            <ul className="text-[14px]">
              {misuse.slice(0, MOST_ROWS).map(({ call, text, rule, count }) => (
                <li key={`${call} ${rule}`} className="border-t border-line py-1.5">
                  <Station name={call} />: {text}, {count === 1 ? 'once' : `${count} times`}
                  <span className="block text-[13px] text-ink2">
                    {rule}. A word to its operator helps more than a note to all.
                  </span>
                </li>
              ))}
            </ul>
          )}
        </section>
        <section aria-label="Probably run over">
          <h3 className="text-[1.05rem] font-[650]">Probably run over</h3>
          <p className="text-[13.5px] text-ink2">
            Stations that are usually heard direct, of which only a repeater’s copy came while somebody else
            was on the air here.
          </p>
          {runOver.length === 0 ? (
            <p className="text-[14px] text-ink2">None.</p>
          ) : (
            <ul className="text-[14px]">
              {runOver.slice(0, MOST_ROWS).map(({ call, count, of }) => (
                <li key={call} className="border-t border-line py-1">
                  <Station name={call} />: {count} of {of} packets
                </li>
              ))}
            </ul>
          )}
        </section>
      </div>
      <section aria-label="Digipeaters">
        <h3 className="text-[1.05rem] font-[650]">Digipeaters</h3>
        {digipeaters.length === 0 ? (
          <p className="text-[14px] text-ink2">None was heard.</p>
        ) : (
          <Table columns={['Call', 'Repeated', 'Serves', 'Heard by it most']} className="w-full text-[14px]">
            {digipeaters.slice(0, MOST_ROWS).map(({ call, count, aliases, from }) => (
              <tr key={call} className="border-t border-line align-baseline">
                <th scope="row" className="py-1 pr-3">
                  <Station name={call} />
                </th>
                <td className="pr-3 font-mono text-[13px]">{count}</td>
                <td className="pr-3 font-mono text-[13px]">{named(aliases, 4) || 'nothing seen'}</td>
                <td className="font-mono text-[13px]">{named(from, 4)}</td>
              </tr>
            ))}
          </Table>
        )}
      </section>
    </>
  );
}

/** The most frequent with their counts. */
const named = (counts: Readonly<Record<string, number>>, most: number): string =>
  Object.entries(counts)
    .sort((a, b) => b[1] - a[1])
    .slice(0, most)
    .map(([name, count]) => `${name} ${count}`)
    .join(', ');

const Station = ({ name }: { name: string }) => (
  <Link to={`/air/${encodeURIComponent(name)}`} className="font-mono font-[620] underline underline-offset-4">
    {name}
  </Link>
);

function Costs({
  title,
  about,
  costs,
  isStation = false,
}: {
  title: string;
  about: string;
  costs: readonly Cost[];
  isStation?: boolean;
}) {
  const most = Math.max(1, ...costs.map(({ airMs }) => airMs));
  return (
    <section aria-label={title}>
      <h3 className="text-[1.05rem] font-[650]">{title}</h3>
      <p className="text-[13px] text-ink3">{about}</p>
      <Table
        columns={[
          isStation ? 'Station' : 'Way',
          'On the air',
          'Packets',
          'Frames',
          { head: 'Share', isHidden: true },
        ]}
        className="w-full text-[14px]"
      >
        {costs.slice(0, MOST_ROWS).map(({ name, airMs, packets, frames }) => (
          <tr key={name} className="border-t border-line align-baseline">
            <th scope="row" className="py-1 pr-3 font-mono text-[13.5px] font-[620]">
              {isStation ? <Station name={name} /> : name}
            </th>
            <td className="pr-3 font-mono text-[13px]">{formatSeconds(airMs)}</td>
            <td className="pr-3 font-mono text-[13px]">{packets}</td>
            <td className="pr-3 font-mono text-[13px]">{frames}</td>
            <td className="w-1/4" aria-hidden>
              <span
                className="block h-2.5 rounded-sm"
                style={{ width: `${(100 * airMs) / most}%`, background: 'var(--r4)' }}
              />
            </td>
          </tr>
        ))}
      </Table>
    </section>
  );
}
