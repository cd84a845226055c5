import { useState } from 'react';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm } from 'react-hook-form';
import { RESULTS } from '@mistpeak/core/chain/record';
import { TrialSettings } from '@mistpeak/contract/record';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { Button } from '../../pieces/button';
import { SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';

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
  const { register, handleSubmit, reset, formState } = useForm<TrialSettings>({
    resolver: classValidatorResolver(TrialSettings),
    defaultValues: { result: 'works', trick: '', note: '', settings: {} },
  });
  const { errors } = formState;
  const save = handleSubmit(async (trial) => {
    await attempt(async () => {
      await command('POST', `/chains/${chainId}/trials`, { ...trial, settings });
      reset();
      setSaved(true);
    });
  });
  return (
    <section aria-label="What came of it" className="border-t-[1.5px] border-ink pt-2 print:hidden">
      <h2 className="pb-1">What came of it</h2>
      <form onSubmit={(event) => void save(event)} noValidate className="flex flex-col gap-3">
        <div className="grid gap-4 md:grid-cols-4">
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
              {...register('levelDbfs', {
                setValueAs: (value: string | number | undefined) =>
                  value === '' || value === undefined ? undefined : Number(String(value).replace('−', '-')),
              })}
            />
          )}
          <TextField
            label="Note"
            hint="For the next time"
            error={errors.note?.message}
            {...register('note')}
          />
        </div>
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
