import { Link } from 'react-router';
import { DEMANDS } from '@mistpeak/core/chain/purpose';
import { PURPOSES, type Purpose } from '@mistpeak/core/proof/ladder';
import type { ChainView } from '@mistpeak/contract/chain';
import { useAttempt } from '../../live/attempt';
import { useClimb, type Climb } from '../../live/climb';
import { saveChain, settingsOf } from '../../live/saved-chain';
import { ChannelLanes } from '../../pieces/channel-lanes';
import { describeClimb } from '../../pieces/camp-words';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { ChainStones } from './chain-stones';
import { ClimbPicture } from './climb-picture';
import { FirstSteps, useFirstVisit } from './first-steps';
import { NextStep } from './next-step';

/** Is my link proved, and what is next? */
export function BenchPage() {
  const climb = useClimb();
  return climb ? <Bench climb={climb} /> : <NoLink />;
}

function NoLink() {
  return (
    <div className="px-7 py-6 max-md:px-4">
      <h1>Bench</h1>
      <p className="max-w-[44rem] pt-2 text-ink2">
        There is no chain yet. Say what you own, and Mistpeak tells what can be built of it; or, if a TNC is
        there already, begin with a link to it: a modem program on the network, or a serial port of this
        machine.
      </p>
      <p className="flex flex-wrap gap-2 pt-4">
        <Link to="/kit" className="inline-block rounded-[7px] bg-ink px-3 py-1.5 font-[620] text-paper">
          Say what I own
        </Link>
        <Link
          to="/tnc"
          className="inline-block rounded-[7px] border-[1.5px] border-edge bg-raise px-3 py-1.5 font-[620]"
        >
          Add a link
        </Link>
      </p>
    </div>
  );
}

function Bench({ climb }: { climb: Climb }) {
  const { chain, camps } = climb;
  const { isFirst, putAway } = useFirstVisit();
  return (
    <div className="flex flex-col gap-4.5 px-7 py-5 max-md:px-4">
      <header className="flex flex-wrap items-baseline gap-x-3.5 gap-y-1">
        <h1>
          {placeOf(chain)}, {PURPOSES[chain.purpose].name}
        </h1>
        <p className="text-ink2">{describeClimb(camps)}</p>
        <OperatorOnly>
          <PurposeChoice climb={climb} />
        </OperatorOnly>
      </header>
      {isFirst && <FirstSteps putAway={putAway} />}
      <ChainStones climb={climb} />
      <ClimbPicture camps={camps} isLow={isFirst} />
      <div className="grid gap-x-6.5 gap-y-5 md:grid-cols-[1fr_1.28fr]">
        <NextStep climb={climb} />
        <section
          aria-label="The last five minutes on the channel"
          className="min-w-0 border-t-[1.5px] border-ink pt-2.5"
        >
          <h2 className="pb-1.5">The last five minutes on the channel</h2>
          <ChannelLanes />
        </section>
      </div>
    </div>
  );
}

/** The computer that it is worked from; the radio, where it does it alone. */
function placeOf({ parts }: ChainView): string {
  return (parts.findLast(({ kind }) => kind === 'host') ?? parts[0])?.name ?? '';
}

/** What the app at the end does. */
function purposesOf({ parts, purpose }: ChainView): readonly Purpose[] {
  const does = parts.at(-1)?.app?.does ?? [];
  return (Object.keys(PURPOSES) as Purpose[]).filter(
    (one) => one === purpose || does.includes(DEMANDS[one].task),
  );
}

/** Another purpose, another climb, on the same evidence. */
function PurposeChoice({ climb: { chain } }: { climb: Climb }) {
  const { problem, attempt } = useAttempt();
  const choose = (purpose: Purpose): void => {
    void attempt(() => saveChain(chain.id, { ...settingsOf(chain), purpose }));
  };
  return (
    <>
      <label className="ml-auto text-[13.5px] text-ink2">
        Purpose{' '}
        <select
          value={chain.purpose}
          onChange={({ target }) => choose(target.value as Purpose)}
          className="ml-1 rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 text-ink max-md:min-h-11"
        >
          {purposesOf(chain).map((id) => (
            <option key={id} value={id}>
              {PURPOSES[id].name}
            </option>
          ))}
        </select>
      </label>
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}
