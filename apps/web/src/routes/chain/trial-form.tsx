import { useState } from 'react';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { Matches } from 'class-validator';
import { RESULTS } from '@mistpeak/core/chain/record';
import { TrialSettings } from '@mistpeak/contract/record';
import { command } from '../../api';
import { AS_NUMBER_OR_NONE } from '../../forms/as-number';
import { useAttempt } from '../../live/attempt';
import { useLastLevel } from '../../live/last-level';
import { useDraftedForm } from '../../live/drafted-form';
import { Button } from '../../pieces/button';
import { DraftedNotes } from '../../pieces/drafted-notes';
import { SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';

/** As it is written: the day on which it was tried, when it is written down later. */
class Written extends TrialSettings {
  @Matches(/^(\d{4}-\d\d-\d\d)?$/, { message: 'choose a day' })
  date!: string;
}

const NOTHING_YET: Written = { result: 'works', trick: '', date: '', note: '', settings: {} };
const LABELS = {
  result: 'Result',
  trick: 'Trick',
  levelDbfs: 'Level',
  date: 'Tried on',
  note: 'Note',
} as const;

/** The middle of that day here. */
const noonOf = (date: string): number => new Date(`${date}T12:00`).getTime();
const todayHere = (): string =>
  new Date(Date.now() - new Date().getTimezoneOffset() * 60_000).toISOString().slice(0, 10);

/** What came of it: goes into the record, with parts, versions, switches and the values of the sheet. */
export function TrialForm({
  chainId,
  settings,
  hasLevel,
}: {
  chainId: string;
  settings: Record<string, string>;
  hasLevel: boolean;
}) {
  const { problem, isBusy, attempt } = useAttempt();
  const [isSaved, setSaved] = useState(false);
  const level = useLastLevel();
  const drafted = useDraftedForm<Written>({
    draft: `trial ${chainId}`,
    resolver: classValidatorResolver(Written),
    saved: NOTHING_YET,
  });
  const { register, handleSubmit, formState } = drafted.form;
  const { errors } = formState;
  const save = handleSubmit(({ date, ...trial }) =>
    attempt(async () => {
      await command('POST', `/chains/${chainId}/trials`, {
        ...trial,
        settings,
        ...(date ? { atMs: noonOf(date) } : {}),
      });
      drafted.drop();
      setSaved(true);
    }),
  );
  return (
    <section aria-label="What came of it" className="border-t-[1.5px] border-ink pt-2 print:hidden">
      <h2 className="pb-1">What came of it</h2>
      <form onSubmit={(event) => void save(event)} noValidate className="flex flex-col gap-3">
        <div className="grid gap-4 md:grid-cols-3">
          <SelectField
            label="Result"
            hint="Only a test counts"
            error={errors.result?.message}
            {...register('result')}
          >
            {RESULTS.map((result) => (
              <option key={result}>{result}</option>
            ))}
          </SelectField>
          <TextField
            label="Trick"
            hint="What it took, if anything"
            error={errors.trick?.message}
            {...register('trick')}
          />
          {hasLevel && (
            <TextField
              label="Receive level, dBFS"
              hint="RMS of the receive check"
              mono
              inputMode="numeric"
              error={errors.levelDbfs?.message}
              {...register('levelDbfs', AS_NUMBER_OR_NONE)}
            />
          )}
          {hasLevel && level?.levelDbfs !== undefined && (
            <Button
              className="self-center justify-self-start"
              onClick={() =>
                drafted.form.setValue('levelDbfs', Math.round(level.levelDbfs ?? 0), { shouldDirty: true })
              }
            >
              Take the last check: {Math.round(level.levelDbfs)} dBFS
            </Button>
          )}
          <TextField
            label="Tried on"
            type="date"
            max={todayHere()}
            hint="Empty: just now"
            error={errors.date?.message}
            {...register('date')}
          />
          <TextField
            label="Note"
            hint="For the next time"
            error={errors.note?.message}
            {...register('note')}
          />
        </div>
        <DraftedNotes drafted={drafted} labels={LABELS} />
        {problem && <ProblemNote problem={problem} />}
        <div className="flex items-center gap-3">
          <Button type="submit" disabled={isBusy}>
            Write it into the record
          </Button>
          <p role="status" className="text-[14px] text-ink2">
            {isSaved ? 'Written into the record; the planner takes it into account.' : ''}
          </p>
        </div>
      </form>
    </section>
  );
}
