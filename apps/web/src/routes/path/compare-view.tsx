import { useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePath } from '@mistpeak/core/digipeating/alias';
import { listMisuse } from '@mistpeak/core/digipeating/misuse';
import { hopsOfPath } from '@mistpeak/core/path-lab/lab';
import { USUAL_PATHS } from '@mistpeak/core/digipeating/usual-paths';
import { advise, named } from '@mistpeak/core/path-lab/advice';
import { hopsIn } from '@mistpeak/core/path-lab/compare';
import type { FillInVerdict } from '@mistpeak/core/path-lab/fill-in';
import type { OperatorView } from '@mistpeak/contract/operator';
import { usePathWork } from '../../live/path-work';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';
import { WorkNote } from '../../pieces/work-note';
import { Cairns } from './cairns';
import { JOURNAL_HOURS, useComposition, useHeardNetwork } from './lab-now';
import { readSet, useOwnSet } from './own-set';
import { PathBars } from './path-bars';
import { SetFields } from './set-fields';

const PACKETS = [300, 1500, 10_000];
/** Of a position with a short comment. */
const OCTETS = 40;
const FILL_IN_PACKETS = 600;

/** Many packets by each path, on the channel as it is here. */
export function CompareView({ operator }: { operator: OperatorView }) {
  const draft = useOwnSet(operator);
  const ready = readSet(draft.values);
  const own = useLive((state) => state.ownStations);
  const [call, setCall] = useState(own[0]?.call ?? operator.call);
  const [path, setPath] = useState('');
  const [packets, setPackets] = useState(PACKETS[0] as number);
  const [seed, setSeed] = useState<number | undefined>(1);
  const [chosen, setChosen] = useState<string>();
  const { network, problem, again } = useHeardNetwork(JOURNAL_HOURS);
  const composition = useComposition(network, 'wrong' in ready ? operator.channelMHz : ready.frequencyMHz);
  const work = usePathWork('compare');
  const fillIn = usePathWork('fill-in');
  const ownPath = parsePath(path);
  const paths = pathsOf(isMalformed(ownPath) ? '' : path.trim().toUpperCase());
  const canBegin =
    composition !== undefined && !('wrong' in ready) && !isMalformed(ownPath) && Number.isInteger(seed);
  const sender =
    'wrong' in ready ? undefined : { call, end: ready.end, places: ready.places, octets: OCTETS };
  const begin = (): void => {
    if (!canBegin || !composition || !sender) return;
    setChosen(undefined);
    work.begin({ lab: composition.lab, sender, paths, packets, seed: seed as number });
  };
  const advice = work.answer && advise(work.answer.results, work.answer.situation);
  const shown = chosen ?? advice?.path ?? '';
  const stages = work.answer?.stages[work.answer.results.findIndex((result) => result.path === shown)];
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <p className="text-[19px] leading-snug font-[620]" role="status">
          {advice?.verdict ?? firstWords(composition?.lab.stations.length)}
        </p>
        {work.answer && !work.answer.isGroundKnown && (
          <p className="text-[14px] text-look">
            No elevation is known here: it is reckoned over a smooth earth, which is too kind in hills. Drop a
            tile under “Who repeats whom”.
          </p>
        )}
        <WorkNote work={work} words="Sending packets" />
        {work.answer && (
          <>
            <PathBars
              results={work.answer.results}
              recommended={advice?.path}
              chosen={shown}
              choose={setChosen}
            />
            {stages && <Cairns path={shown} stages={stages} />}
            {advice && (
              <section aria-label="Why" className="border-t-[1.5px] border-ink pt-2.5">
                <h2>Why</h2>
                <ul className="flex max-w-[46rem] flex-col gap-1.5 pt-1 text-[14.5px]">
                  {advice.why.map((reason) => (
                    <li key={reason}>{reason}</li>
                  ))}
                </ul>
                <h3 className="pt-3">Where schools differ</h3>
                <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 pt-1 text-[14px]">
                  {advice.schools.map(({ name, path: of, says }) => (
                    <div key={name} className="contents">
                      <dt className="font-mono whitespace-nowrap">{named(of)}</dt>
                      <dd className="text-ink2">
                        {name}: {says}
                      </dd>
                    </div>
                  ))}
                </dl>
              </section>
            )}
          </>
        )}
        <section
          aria-label="As a fill-in"
          className="flex flex-col items-start gap-2 border-t-[1.5px] border-ink pt-2.5"
        >
          <h2>Would my station help as a fill-in?</h2>
          <FillIn verdict={fillIn.answer} />
          <WorkNote work={fillIn} words="Sending the others’ packets twice" />
          <Button
            disabled={!composition || !sender || fillIn.share !== undefined}
            onClick={() =>
              composition &&
              sender &&
              fillIn.begin({ lab: composition.lab, sender, packets: FILL_IN_PACKETS, seed: seed ?? 1 })
            }
          >
            Try it on the others’ packets
          </Button>
        </section>
      </div>
      <aside className="flex flex-col gap-3 lg:border-l lg:border-line lg:pl-6">
        <SetFields draft={draft} withTrack />
        <SelectField label="As" value={call} onChange={({ target }) => setCall(target.value)}>
          {[...new Set([...own.map((station) => station.call), operator.call])].map((one) => (
            <option key={one}>{one}</option>
          ))}
        </SelectField>
        <TextField
          label="And a path of my own"
          mono
          value={path}
          error={isMalformed(ownPath) ? ownPath.malformed : undefined}
          hint={path === '' ? 'beside the usual ones' : hopsWords(path)}
          onChange={({ target }) => setPath(target.value)}
        />
        {!isMalformed(ownPath) && <PathRules path={path} />}
        <div className="grid grid-cols-2 gap-3">
          <SelectField
            label="Packets a path"
            value={packets}
            onChange={({ target }) => setPackets(Number(target.value))}
          >
            {PACKETS.map((count) => (
              <option key={count} value={count}>
                {count.toLocaleString('en')}
              </option>
            ))}
          </SelectField>
          <NumberField label="Seed" hint="same seed, same answer" value={seed} set={setSeed} />
        </div>
        {problem && <ProblemNote problem={problem} />}
        {composition && (
          <p className="text-[13px] text-ink3">
            {composition.lab.stations.length} stations of the last {JOURNAL_HOURS} h and those known by hand;
            their packets load the channel.
            {composition.unplaced.length > 0 &&
              ` Of unknown place, and left out: ${composition.unplaced.join(', ')}.`}
          </p>
        )}
        <Button onClick={again}>Read the journal again</Button>
        <Button kind="main" disabled={!canBegin || work.share !== undefined} onClick={begin}>
          Compare the paths
        </Button>
      </aside>
    </div>
  );
}

function FillIn({ verdict }: { verdict: FillInVerdict | undefined }) {
  if (!verdict)
    return (
      <p className="max-w-[46rem] text-[14.5px] text-ink2">
        A fill-in serves WIDE1-1 alone. It is of use only where it hears those whom the hill does not.
      </p>
    );
  return (
    <div role="status" className="max-w-[46rem] text-[14.5px]">
      <p className="font-[620]">{verdict.words}</p>
      {verdict.gainers.length > 0 && (
        <p className="text-ink2">
          Most for{' '}
          {verdict.gainers
            .map(
              ({ call, from, to }) =>
                `${call} (${Math.round(from.share * 100)} → ${Math.round(to.share * 100)} %)`,
            )
            .join(', ')}
          .
        </p>
      )}
    </div>
  );
}

/** By hops asked for, and one of one’s own behind them. */
function pathsOf(own: string): string[] {
  const usual = USUAL_PATHS.map(({ path }): string => path).sort((a, b) => hopsIn(a) - hopsIn(b));
  return own === '' || usual.includes(own) ? usual : [...usual, own];
}

/** What in it goes against the published rule, with the rule. */
function PathRules({ path }: { path: string }) {
  const misuse = listMisuse(hopsOfPath(path));
  if (misuse.length === 0) return null;
  return (
    <ul className="flex flex-col gap-1 border-l-[3px] border-look pl-3 text-[13.5px]">
      {misuse.map(({ text, rule }) => (
        <li key={text}>
          {text}. <span className="text-ink2">{rule}.</span>
        </li>
      ))}
    </ul>
  );
}

const hopsWords = (path: string): string => {
  const hops = hopsIn(path);
  return hops === 1 ? 'asks for one hop' : `asks for ${hops} hops`;
};

const firstWords = (stations: number | undefined): string =>
  stations === undefined
    ? 'Reading the journal …'
    : stations === 0
      ? 'Nobody is known here yet: listen for a while, or enter a digipeater under “Who repeats whom”.'
      : `${stations} stations are known here. Compare the paths: which one reaches a gateway, and what does it cost the channel?`;
