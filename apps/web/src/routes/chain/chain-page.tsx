import { useMemo, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { summary } from '@mistpeak/core/chain/rank';
import { isProved, wordFor } from '@mistpeak/core/chain/record';
import type { Item } from '@mistpeak/core/kit/item';
import { isPurpose, PURPOSES, type Purpose } from '@mistpeak/core/proof/ladder';
import { usePlan } from '../../live/plan';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { portWords } from '../../pieces/chain-drawing';
import { BrokenChain, WholeChain } from './planned-chain';
import { SavedChains } from './saved-chains';
import { SheetPage } from './sheet-page';

/** What can I build for this purpose, where does it break, what is the setup sheet? */
export function ChainPage() {
  const { chain } = useParams();
  return chain === undefined ? <Planner /> : <SheetPage key={chain} id={chain} />;
}

/** So many are on a phone until more are asked for. */
const FIRST = 3;

/** What everything else depends on. */
const FIRST_WORDS = {
  radio: 'Add your radio first, on the page Kit: its sockets decide what else fits.',
  host: 'Add your phone or computer next, on the page Kit: its sockets and wireless decide what fits between.',
} as const;

const FROM = { all: 'everything that I own', here: 'what is at hand' } as const;
type From = keyof typeof FROM;

function Planner() {
  const [query, setQuery] = useSearchParams();
  const asked = query.get('for');
  const purpose: Purpose = isPurpose(asked) ? asked : 'beacon';
  const from: From = query.get('from') === 'here' ? 'here' : 'all';
  const owned = useLive((state) => state.kit);
  const trials = useLive((state) => state.trials);
  const [isAllShown, setAllShown] = useState(false);
  // The same list for the same question, so that the planner is not asked again at each event.
  const [kit, away] = useMemo(() => {
    const isAtHand = ({ isHere, app }: Item): boolean => from === 'all' || isHere || app?.isMistpeak === true;
    return [owned.filter(isAtHand), owned.filter((item) => !isAtHand(item))];
  }, [owned, from]);
  const { plan, isBusy } = usePlan(kit, away, purpose);
  const possible = plan ? [...plan.holding, ...plan.switches] : [];
  // What worked comes first, though a switch stands otherwise now.
  const whole = [
    ...possible.filter((chain) => isProved(chain, trials)),
    ...possible.filter((chain) => !isProved(chain, trials)),
    ...(plan?.lastResort ?? []),
  ];
  const all = plan ? [...whole, ...plan.broken.map(({ chain }) => chain)] : [];
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line px-7 py-4.5 max-md:px-4">
        <h1 className="leading-relaxed">
          What can I build for{' '}
          <InlineChoice
            label="Purpose"
            value={purpose}
            options={Object.entries(PURPOSES).map(([id, { name }]) => [id, name] as const)}
            choose={(id) => setQuery({ for: id, from })}
          />{' '}
          from{' '}
          <InlineChoice
            label="From"
            value={from}
            options={Object.entries(FROM)}
            choose={(id) => setQuery({ for: purpose, from: id })}
          />
          ?
        </h1>
        <p role="status" className="ml-auto text-ink2 max-md:ml-0">
          {plan === undefined
            ? 'working it out …'
            : summary(
                all.map((chain) => wordFor(chain, trials)),
                PURPOSES[purpose].name,
              )}
          {plan !== undefined && isBusy ? ' …' : ''}
        </p>
      </header>
      <div className="grid flex-1 md:grid-cols-[15.5rem_minmax(0,1fr)]">
        <Shelf from={from} />
        <div className="flex min-w-0 flex-col px-7 py-3 max-md:px-4">
          <SavedChains />
          {whole.map((chain, i) => (
            <div key={keyOf(chain)} className={i >= FIRST && !isAllShown ? 'max-md:hidden' : ''}>
              <WholeChain chain={chain} place={i} others={all} kit={kit} />
            </div>
          ))}
          {plan?.broken.map(({ chain, mends }, i) => (
            <div
              key={keyOf(chain)}
              className={whole.length + i >= FIRST && !isAllShown ? 'max-md:hidden' : ''}
            >
              <BrokenChain chain={chain} mends={mends} place={whole.length + i} kit={kit} />
            </div>
          ))}
          {all.length > FIRST && !isAllShown && (
            <Button className="my-3 self-start md:hidden" onClick={() => setAllShown(true)}>
              Show all {all.length} chains
            </Button>
          )}
          {plan && all.length === 0 && (
            <p className="py-4 text-ink2">
              {plan.first ? FIRST_WORDS[plan.first] : 'Nothing on the shelf leads to it yet.'}
            </p>
          )}
          {plan && plan.shopping.length > 0 && <Shopping lists={plan.shopping} />}
        </div>
      </div>
    </div>
  );
}

type Planned = NonNullable<ReturnType<typeof usePlan>['plan']>;

const keyOf = ({ stones }: Planned['holding'][number]): string => stones.map(({ item }) => item.id).join(' ');

function InlineChoice({
  label,
  value,
  options,
  choose,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  choose: (value: string) => void;
}) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={({ target }) => choose(target.value)}
      className="max-w-full cursor-pointer border-b-[2.5px] border-ink bg-transparent pb-0.5 font-[680] [field-sizing:content] max-md:min-h-11"
    >
      {options.map(([id, name]) => (
        <option key={id} value={id} className="text-[15px]">
          {name}
        </option>
      ))}
    </select>
  );
}

/** What it is built from. */
function Shelf({ from }: { from: From }) {
  const kit = useLive((state) => state.kit);
  return (
    <aside aria-label="On the shelf" className="border-r border-line bg-sheet px-4.5 py-3.5 max-md:hidden">
      <div className="flex items-baseline justify-between pb-1.5">
        <h2>On the shelf</h2>
        <Link to="/kit" className="text-[13.5px] text-ink2 underline underline-offset-4">
          Change the kit
        </Link>
      </div>
      <ul>
        {kit
          .filter(({ kind }) => kind !== 'antenna')
          .map((item) => (
            <li
              key={item.id}
              className={`border-t border-line py-1.5 ${from === 'here' && !item.isHere ? 'opacity-50' : ''}`}
            >
              <p className="text-[13.5px] leading-tight font-[620]">{item.name}</p>
              <p className="font-mono text-[12px] leading-snug text-ink2">
                {item.isHere ? portWords(item) || item.about : 'not at hand'}
              </p>
            </li>
          ))}
      </ul>
    </aside>
  );
}

function Shopping({ lists }: { lists: Planned['shopping'] }) {
  return (
    <section aria-label="What to get" className="border-t-[1.5px] border-ink py-3">
      <h2>What to get</h2>
      <p className="text-ink2">The shortest lists that lead to it, by what the parts can do:</p>
      <ul className="list-disc pt-1.5 pl-5">
        {lists.map((list) => (
          <li key={list.map(({ id }) => id).join()}>{list.map(({ name }) => name).join(' + ')}</li>
        ))}
      </ul>
    </section>
  );
}
