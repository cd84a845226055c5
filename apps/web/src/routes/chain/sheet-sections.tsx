import { useState } from 'react';
import type { Sheet, SheetStep } from '@mistpeak/core/sheet/sheet';
import { isStepDone, type StepTick } from '@mistpeak/core/sheet/sheet-text';
import { useIsWatcher } from '../../live/access';
import { useLastLevel } from '../../live/last-level';
import { draftKey, tickStep, useSheetMemory, writeDraft } from '../../live/sheet-ticks';
import { formatClock } from '../../pieces/age';

/** Steps that the receive check answers. */
const LEVEL_MEASURE = 'RMS level, dBFS';

/** The steps of each device in their order, each with its box; what is special to this chain first. */
export function SheetSections({
  chainId,
  sheet,
  ticks,
}: {
  chainId: string;
  sheet: Sheet;
  ticks: ReadonlyMap<string, StepTick>;
}) {
  return sheet.sections.map(({ title, steps }) => {
    const care = steps.filter(({ isCare }) => isCare);
    return (
      <section key={title} aria-label={title} className="border-t-[1.5px] border-ink pt-2">
        <h2>{title}</h2>
        <ol>
          {steps
            .filter(({ isCare }) => !isCare)
            .map((step) => (
              <StepRow key={step.id} chainId={chainId} step={step} tick={ticks.get(step.id)} />
            ))}
        </ol>
        {care.length > 0 && <CommonCare chainId={chainId} steps={care} ticks={ticks} />}
      </section>
    );
  });
}

/** What every such device needs: folded on the screen, whole on paper. */
function CommonCare({
  chainId,
  steps,
  ticks,
}: {
  chainId: string;
  steps: readonly SheetStep[];
  ticks: ReadonlyMap<string, StepTick>;
}) {
  const [isOpen, setOpen] = useState(false);
  const done = steps.filter((step) => isStepDone(step, ticks.get(step.id))).length;
  return (
    <>
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        className="flex min-h-9 w-full flex-wrap items-baseline gap-x-2 border-t border-line py-1.5 text-left text-[14px] max-md:min-h-11 print:hidden"
      >
        <span aria-hidden className="w-4">
          {isOpen ? '▾' : '▸'}
        </span>
        <b className="font-[620]">Common care</b>
        <span className="text-ink2">
          {steps.map(({ setting }) => setting).join(', ')}: {done} of {steps.length} done
        </span>
      </button>
      <ol className={isOpen ? '' : 'hidden print:block'}>
        {steps.map((step) => (
          <StepRow key={step.id} chainId={chainId} step={step} tick={ticks.get(step.id)} />
        ))}
      </ol>
    </>
  );
}

function StepRow({ chainId, step, tick }: { chainId: string; step: SheetStep; tick: StepTick | undefined }) {
  const isWatcher = useIsWatcher();
  const level = useLastLevel();
  const [isOpen, setOpen] = useState(false);
  const key = draftKey(chainId, step.id);
  const draft = useSheetMemory((state) => state.drafts[key]) ?? {
    measured: tick?.measured ?? '',
    note: tick?.note ?? '',
  };
  const isDone = isStepDone(step, tick);
  const isWaiting = useSheetMemory(({ waiting }) =>
    waiting.some((one) => one.chainId === chainId && one.settings.stepId === step.id),
  );
  const send = (done: boolean): void =>
    tickStep(chainId, { stepId: step.id, isDone: done, ...draft, ...(step.set ? { set: step.set } : {}) });
  return (
    <li className="grid grid-cols-[1.6rem_1fr] gap-x-2 border-t border-line py-1.5 first:border-t-0 print:break-inside-avoid">
      <input
        type="checkbox"
        checked={isDone}
        disabled={isWatcher}
        onChange={({ target }) => send(target.checked)}
        aria-label={`${step.setting}: done`}
        className="mt-0.5 size-[1.15rem] accent-[var(--proved)] max-md:size-6"
      />
      <div className="min-w-0">
        <p className="text-[14.5px]">
          <b className="font-[640]">{step.setting}:</b> {step.value}
        </p>
        {step.now && (
          <p className="text-[13.5px]">
            <span className="font-[640] text-look">Now: </span>
            {step.now}
          </p>
        )}
        <p className="text-[13.5px] text-ink2">{step.reason}</p>
        <p className="text-[13.5px] text-ink2">
          <span className="font-[620] text-ink">Check: </span>
          {step.check}
        </p>
        <p className="flex flex-wrap gap-x-3 text-[12.5px] text-ink3">
          {isWaiting && <span className="text-look">kept here; goes to Mistpeak when it answers</span>}
          {isDone && tick && !isWaiting && (
            <span className="text-proved">done {formatClock(tick.atMs, 'utc')} UTC</span>
          )}
          {isDone && tick?.measured && <span className="font-mono">{tick.measured}</span>}
          {isDone && tick?.note && <span>{tick.note}</span>}
          {step.school && (
            <span>
              school “{step.school.follows}”, good for {step.school.goodFor}
            </span>
          )}
          {step.source !== 'common practice, no source' && <span>{step.source}</span>}
          <button
            type="button"
            onClick={() => setOpen(!isOpen)}
            aria-expanded={isOpen}
            aria-label={`Note on ${step.setting}`}
            className="underline underline-offset-4 max-md:min-h-11 print:hidden"
          >
            {step.measures ? 'measured, note' : 'note'}
          </button>
        </p>
        {(isOpen || (draft.note !== (tick?.note ?? '') && !isDone)) && (
          <div className="grid gap-2 pt-1 md:grid-cols-2 print:hidden">
            {step.measures && (
              <label className="text-[13px]">
                Measured: {step.measures}
                <input
                  value={draft.measured}
                  maxLength={60}
                  disabled={isWatcher}
                  onChange={({ target }) => writeDraft(key, { ...draft, measured: target.value })}
                  onBlur={() => isDone && send(true)}
                  className="w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 font-mono text-[14px] text-ink max-md:min-h-11"
                />
                {step.measures === LEVEL_MEASURE && level?.levelDbfs !== undefined && !isWatcher && (
                  <button
                    type="button"
                    className="underline underline-offset-4 max-md:min-h-11"
                    onClick={() =>
                      writeDraft(key, { ...draft, measured: `${Math.round(level.levelDbfs ?? 0)} dBFS` })
                    }
                  >
                    take the last check: {Math.round(level.levelDbfs)} dBFS
                  </button>
                )}
              </label>
            )}
            <label className="text-[13px]">
              Note
              <input
                value={draft.note}
                maxLength={200}
                disabled={isWatcher}
                onChange={({ target }) => writeDraft(key, { ...draft, note: target.value })}
                onBlur={() => isDone && send(true)}
                className="w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 text-[14px] text-ink max-md:min-h-11"
              />
            </label>
          </div>
        )}
      </div>
    </li>
  );
}
