import { NATURES } from '@mistpeak/core/power/battery';
import { READING_KINDS, readingOf, type ReadingKind } from '@mistpeak/core/power/readings';
import type { BankSettings, NewReading } from '@mistpeak/contract/field';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useLive } from '../../live/store';
import { formatDay } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';

const KINDS: Readonly<Record<ReadingKind, string>> = {
  rested: 'its voltage, rested',
  counted: 'ampere-hours taken, by a meter',
  full: 'full: the charger says so',
  empty: 'empty: the set gave up',
};
const FRESH: NewReading = { kind: 'rested', wasCharged: false, note: '' };
const SHOWN = 12;

/** What the battery was found to hold, and what each of it tells. */
export function Readings({ isTold, bank }: { isTold: boolean; bank: BankSettings }) {
  const readings = useLive((state) => state.field.readings);
  const { attempt } = useAttempt();
  return (
    <section aria-label="Readings" className="flex flex-col gap-3">
      <h2>Readings</h2>
      {readings.length > 0 && (
        <Table columns={['When', 'How', 'Tells', 'Note', { head: 'Take away', isHidden: true }]} stacks>
          {readings
            .slice(-SHOWN)
            .reverse()
            .map((reading) => (
              <tr key={reading.id} className="border-t border-line align-baseline">
                <td className="py-1 pr-3 font-mono text-[13px]">{formatDay(reading.atMs)}</td>
                <td className="py-1 pr-3">{howOf(reading)}</td>
                <td className="py-1 pr-3">{chargeInWords(bank, reading)}</td>
                <td className="py-1 pr-3 text-ink2">{reading.note}</td>
                <td className="py-1 text-right">
                  <OperatorOnly>
                    <Button
                      aria-label={`Take away the reading of ${formatDay(reading.atMs)}`}
                      onClick={() => void attempt(() => command('DELETE', `/field/readings/${reading.id}`))}
                    >
                      Take away
                    </Button>
                  </OperatorOnly>
                </td>
              </tr>
            ))}
        </Table>
      )}
      <OperatorOnly>
        {isTold ? (
          <ReadingForm bank={bank} />
        ) : (
          <p className="text-[14px] text-ink2">Save what goes along first; then readings can be kept.</p>
        )}
      </OperatorOnly>
    </section>
  );
}

function howOf({ kind, volts, restedHours, takenAh, wasCharged }: NewReading): string {
  const how =
    kind === 'rested'
      ? `${volts} V after ${restedHours} h of rest`
      : kind === 'counted'
        ? `${takenAh} Ah taken since full`
        : kind;
  return wasCharged ? `${how}, charged before` : how;
}

export function chargeInWords(bank: BankSettings, reading: NewReading): string {
  const told = readingOf(bank, reading);
  if (told.kind === 'charge') return `${Math.round(told.charge * 100)} %`;
  if (told.kind === 'between')
    return `between ${Math.round(told.from * 100)} and ${Math.round(told.to * 100)} %: no forecast by voltage`;
  return 'nothing, by the battery as it is told now';
}

function ReadingForm({ bank }: { bank: BankSettings }) {
  const { values, set, drop, wasBegun } = useDraft<NewReading>('battery reading', FRESH);
  const { problem, isBusy, attempt } = useAttempt();
  const change = (part: Partial<NewReading>): void => set({ ...values, ...part });
  const keep = async (): Promise<void> => {
    const { kind, volts, restedHours, takenAh, wasCharged, note } = values;
    const body = {
      ...{ kind, wasCharged, note },
      ...(kind === 'rested' ? { volts, restedHours } : {}),
      ...(kind === 'counted' ? { takenAh } : {}),
    };
    if (await attempt(() => command('POST', '/field/readings', body))) drop();
  };
  return (
    <form
      aria-label="New reading"
      className="flex max-w-2xl flex-col gap-3 border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <div className="grid gap-3 md:grid-cols-3">
        <SelectField
          label="What was found"
          value={values.kind}
          onChange={({ target }) => change({ kind: target.value as ReadingKind })}
        >
          {READING_KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {KINDS[kind]}
            </option>
          ))}
        </SelectField>
        {values.kind === 'rested' && (
          <>
            <NumberField
              label="Volts"
              error={problem?.fields?.volts}
              value={values.volts}
              set={(volts) => change({ volts: volts as number })}
            />
            <NumberField
              label="At rest for, h"
              hint={`Nothing drawn, nothing charged; ${bank.chemistry} wants ${NATURES[bank.chemistry].restHours} h.`}
              error={problem?.fields?.restedHours}
              value={values.restedHours}
              set={(restedHours) => change({ restedHours: restedHours as number })}
            />
          </>
        )}
        {values.kind === 'counted' && (
          <NumberField
            label="Taken since it was full, Ah"
            error={problem?.fields?.takenAh}
            value={values.takenAh}
            set={(takenAh) => change({ takenAh: takenAh as number })}
          />
        )}
      </div>
      <Choice
        label="Something charged it since the reading before"
        isOn={values.wasCharged}
        set={(wasCharged) => change({ wasCharged })}
      />
      <TextField
        label="Note"
        value={values.note}
        maxLength={200}
        onChange={({ target }) => change({ note: target.value })}
      />
      <div className="flex items-center gap-3">
        <Button type="submit" disabled={isBusy}>
          Keep the reading
        </Button>
        {wasBegun && <span className="text-[13px] text-ink3">What you began stands here.</span>}
      </div>
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      {problem?.fields?.kind && <p className="text-[14px] text-stop">{problem.fields.kind}</p>}
    </form>
  );
}
