import { Link, useNavigate } from 'react-router';
import { chainState, isSoundChain, type Chain } from '@mistpeak/core/chain/chain';
import { chainTitle } from '@mistpeak/core/chain/rank';
import { changesSince, isSuccess, lastTrialOf, trialTag } from '@mistpeak/core/chain/record';
import { PURPOSES } from '@mistpeak/core/proof/ladder';
import { schoolsOf, setupSheet, sheetValues, stepCount, type Sheet } from '@mistpeak/core/sheet/sheet';
import { isStepDone, sheetToJson, sheetToMarkdown, type StepTick } from '@mistpeak/core/sheet/sheet-text';
import type { ChainSettings, ChainView } from '@mistpeak/contract/chain';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { joinedChain } from '../../live/climb';
import { saveChain, settingsOf } from '../../live/saved-chain';
import { useTicks } from '../../live/sheet-ticks';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { ChainDrawing } from '../../pieces/chain-drawing';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { saveFile } from '../../pieces/save-file';
import { Table } from '../../pieces/table';
import { Badge } from './badge';
import { Schools } from './schools';
import { useSheetFacts } from './sheet-facts';
import { SheetSections } from './sheet-sections';
import { TrialForm } from './trial-form';

/** The setup sheet of one saved chain. */
export function SheetPage({ id }: { id: string }) {
  const saved = useLive((state) => state.chains.find((chain) => chain.id === id));
  const kit = useLive((state) => state.kit);
  if (!saved)
    return (
      <div className="px-7 py-5 max-md:px-4">
        <h1>That chain is not here</h1>
        <p className="py-2 text-ink2">It was removed, or the address is wrong.</p>
        <Link to="/chain" className="underline underline-offset-4">
          Plan a chain
        </Link>
      </div>
    );
  const chain = joinedChain(saved, kit);
  return chain ? <SheetOf saved={saved} chain={chain} /> : <NoLongerFits saved={saved} />;
}

/** Parts of the kit were changed so that two of them do not go together any more. */
function NoLongerFits({ saved }: { saved: ChainView }) {
  return (
    <div className="flex flex-col gap-3 px-7 py-5 max-md:px-4">
      <h1>Two parts of this chain no longer go together</h1>
      <p className="text-ink2">
        {saved.parts.map(({ name }) => name).join(' – ')}. The kit was changed after the chain was saved:
        ports or abilities of a part are others now.
      </p>
      <p className="flex gap-2">
        <Link to={`/chain?for=${saved.purpose}`} className="underline underline-offset-4">
          Plan it again
        </Link>
        <Link to="/kit" className="underline underline-offset-4">
          Look at the kit
        </Link>
      </p>
      <RemoveChain id={saved.id} />
    </div>
  );
}

function SheetOf({ saved, chain }: { saved: ChainView; chain: Chain }) {
  const facts = useSheetFacts(chain, saved.isMoving);
  const ticks = useTicks(saved.id);
  const { problem, attempt } = useAttempt();
  const sheet = setupSheet(chain, facts, saved.schools);
  const steps = stepCount(sheet);
  const done = sheet.sections
    .flatMap((one) => one.steps)
    .filter((step) => isStepDone(step, ticks.get(step.id))).length;
  const change = (changes: Partial<ChainSettings>): void => {
    void attempt(() => saveChain(saved.id, { ...settingsOf(saved), ...changes }));
  };
  return (
    <div className="mx-auto flex max-w-[66rem] flex-col gap-4 px-7 py-5 max-md:px-4 print:max-w-none print:px-0 print:py-0">
      <header className="flex flex-col gap-1">
        <h1 className="flex flex-wrap items-center gap-2.5">
          Setup sheet: {PURPOSES[chain.purpose].name} <Badge chain={chain} />
        </h1>
        <p className="text-ink2">
          {saved.name ? `${saved.name}: ` : ''}
          {chainTitle(chain)}. {done} of {steps} steps done. Mark for comments and subjects:{' '}
          <b className="font-mono text-ink">
            {trialTag(
              chain.purpose,
              chain.stones.map(({ item }) => item),
            )}
          </b>
        </p>
      </header>
      <ChainDrawing chain={chain} label="The chain" />
      <SheetActions saved={saved} chain={chain} sheet={sheet} ticks={ticks} />
      {problem && <ProblemNote problem={problem} />}
      {chainState(chain) === 'breaks' && (
        <p role="alert" className="border-l-[3px] border-stop bg-raise px-3 py-2">
          A joint of this chain breaks as the kit is now: mend it before you go through the sheet.
        </p>
      )}
      <Changes saved={saved} chain={chain} sheet={sheet} />
      <div className="grid gap-5 md:grid-cols-[1fr_17rem] print:block">
        <div className="flex min-w-0 flex-col gap-4">
          <Cautions sheet={sheet} />
          <SheetSections chainId={saved.id} sheet={sheet} ticks={ticks} />
          <Routes sheet={sheet} />
        </div>
        <OperatorOnly>
          <aside aria-label="How it is set up" className="flex flex-col gap-4 print:hidden">
            <Situation saved={saved} change={change} />
            <Schools
              chain={chain}
              used={schoolsOf(sheet)}
              choices={saved.schools}
              choose={(schools) => change({ schools })}
            />
          </aside>
        </OperatorOnly>
      </div>
      <OperatorOnly>
        <TrialForm
          chainId={saved.id}
          settings={{ ...sheetValues(sheet), ...measuredValues(sheet, ticks) }}
          hasLevel={isSoundChain(chain)}
        />
      </OperatorOnly>
    </div>
  );
}

/** What was read off, by device and setting. */
function measuredValues(sheet: Sheet, ticks: ReadonlyMap<string, StepTick>): Record<string, string> {
  return Object.fromEntries(
    sheet.sections.flatMap(({ title, steps }) =>
      steps.flatMap(({ id, setting }) => {
        const measured = ticks.get(id)?.measured;
        return measured ? [[`${title}, ${setting}, measured`, measured]] : [];
      }),
    ),
  );
}

function SheetActions({
  saved,
  chain,
  sheet,
  ticks,
}: {
  saved: ChainView;
  chain: Chain;
  sheet: Sheet;
  ticks: ReadonlyMap<string, StepTick>;
}) {
  const { problem, attempt } = useAttempt();
  const navigate = useNavigate();
  const toBench = (): Promise<boolean> =>
    attempt(async () => {
      await command('PUT', `/chains/${saved.id}/bench`);
      await navigate('/bench');
    });
  return (
    <div className="flex flex-wrap gap-2 print:hidden">
      <OperatorOnly>
        {saved.onBench ? (
          <p className="self-center text-[14px] text-ink2">On the Bench.</p>
        ) : (
          <Button kind="main" onClick={() => void toBench()}>
            Put it on the Bench
          </Button>
        )}
      </OperatorOnly>
      <Button onClick={() => window.print()}>Print</Button>
      <Button
        onClick={() => saveFile('setup-sheet.md', 'text/markdown', sheetToMarkdown(chain, sheet, ticks))}
      >
        Save as Markdown
      </Button>
      <Button
        onClick={() => saveFile('setup-sheet.json', 'application/json', sheetToJson(chain, sheet, ticks))}
      >
        Save as JSON
      </Button>
      <RemoveChain id={saved.id} />
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

/** Brought back with one press for a minute, its ticks with it: nobody is asked first. */
function RemoveChain({ id }: { id: string }) {
  const navigate = useNavigate();
  const { problem, attempt } = useAttempt();
  const remove = (): Promise<boolean> =>
    attempt(async () => {
      await command('DELETE', `/chains/${id}`);
      await navigate('/chain');
    });
  return (
    <OperatorOnly>
      <Button onClick={() => void remove()}>Remove the chain</Button>
      {problem && <ProblemNote problem={problem} />}
    </OperatorOnly>
  );
}

/** What differs now from the last time that it worked. */
function Changes({ saved, chain, sheet }: { saved: ChainView; chain: Chain; sheet: Sheet }) {
  const trials = useLive((state) => state.trials);
  const success = lastTrialOf(chain, trials.filter(isSuccess));
  if (!success) return null;
  const changes = changesSince(success, chain, saved.antenna, sheetValues(sheet));
  const date = new Date(success.atMs).toISOString().slice(0, 10);
  return (
    <section
      aria-label="Changed since it last worked"
      className="border-l-[3px] border-look bg-raise px-3.5 py-2"
    >
      <h2 className="text-[15px]">It last worked on {date}</h2>
      {changes.length === 0 ? (
        <p className="text-[14px] text-ink2">Nothing that is written down has changed since.</p>
      ) : (
        <ul className="list-disc pl-5 text-[14px]">
          {changes.map(({ what, then, now }) => (
            <li key={what}>
              <b className="font-[620]">{what}</b>: {now} <span className="text-ink2">(then {then})</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Cautions({ sheet }: { sheet: Sheet }) {
  return (
    <section aria-label="Cautions" className="border-t-[1.5px] border-ink pt-2">
      <h2>Cautions</h2>
      <ul className="list-disc pl-5 text-[14px] text-ink2">
        {sheet.cautions.map(({ id, text }) => (
          <li key={id}>{text}</li>
        ))}
      </ul>
    </section>
  );
}

/** What leaves by which way. */
function Routes({ sheet }: { sheet: Sheet }) {
  if (sheet.routes.length === 0) return null;
  return (
    <section aria-label="What leaves, by which way" className="border-t-[1.5px] border-ink pt-2">
      <h2>What leaves, by which way</h2>
      <Table
        columns={['What', { head: 'By', className: 'w-24' }, { head: 'How often', className: 'w-[36%]' }]}
        className="w-full text-[14px]"
      >
        {sheet.routes.map(({ what, by, state }) => (
          <tr key={`${what} ${by}`} className="border-t border-line align-baseline">
            <td className="py-1 pr-3">{what}</td>
            <td>{by}</td>
            <td className="text-ink2">{state}</td>
          </tr>
        ))}
      </Table>
    </section>
  );
}

/** On the move or not, and at which antenna. */
function Situation({
  saved,
  change,
}: {
  saved: ChainView;
  change: (changes: Partial<ChainSettings>) => void;
}) {
  const antennas = useLive((state) => state.kit).filter(({ kind }) => kind === 'antenna');
  return (
    <section aria-label="Situation" className="flex flex-col gap-2 border-t-[1.5px] border-ink pt-2">
      <h2>Situation</h2>
      <label className="flex items-center gap-2 text-[14px] max-md:min-h-11">
        <input
          type="checkbox"
          checked={saved.isMoving}
          onChange={({ target }) => change({ isMoving: target.checked })}
          className="size-4 accent-[var(--proved)]"
        />
        On the move
      </label>
      <label className="text-[14px]">
        Antenna
        <select
          value={saved.antenna}
          onChange={({ target }) => change({ antenna: target.value })}
          className="mt-1 w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 text-ink max-md:min-h-11"
        >
          <option value="">not written down</option>
          {[...new Set([...antennas.map(({ name }) => name), ...(saved.antenna ? [saved.antenna] : [])])].map(
            (name) => (
              <option key={name}>{name}</option>
            ),
          )}
        </select>
      </label>
    </section>
  );
}
