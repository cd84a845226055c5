import { isMalformed } from '@mistpeak/core/bits/malformed';
import {
  FACILITY_KINDS,
  facilityKey,
  type Facility,
  type FacilityFacts,
  type FacilityKind,
} from '@mistpeak/core/gateways/facility';
import { formatPlace, parsePlace } from '@mistpeak/core/geo/place';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';

type Written = Omit<Partial<FacilityFacts>, 'position'> & { readonly place: string };

const EMPTY: Written = { kind: 'mail gateway', call: '', mode: '', hours: '', notes: '', place: '' };
const NUMBERS = [
  ['frequencyMHz', 'Frequency, MHz'],
  ['baud', 'Speed, Bd'],
  ['heightM', 'Antenna height, m'],
  ['toneHz', 'Tone, Hz'],
  ['shiftMHz', 'Shift, MHz'],
  ['reliabilityPercent', 'Declared reliability, %'],
  ['qualityPercent', 'Declared quality, %'],
] as const;

const writtenOf = ({ position, sources: _, ...facts }: Facility): Written => ({
  ...facts,
  place: position ? formatPlace(position) : '',
});

/** One by hand, new or changed. */
export function FacilityForm({ facility, close }: { facility?: Facility; close: () => void }) {
  const key = facility && facilityKey(facility);
  const draft = useDraft<Written>(`gateway ${key ?? 'new'}`, facility ? writtenOf(facility) : EMPTY);
  const { values, set } = draft;
  const { problem, isBusy, attempt } = useAttempt();
  const place = values.place.trim() === '' ? undefined : parsePlace(values.place);
  const wrongPlace = isMalformed(place) ? place.malformed : undefined;
  const finish = (): void => {
    draft.drop();
    close();
  };
  const save = async (): Promise<void> => {
    const { place: _, ...told } = values;
    const facts = { ...told, ...(place && !isMalformed(place) ? { position: place } : {}) };
    await (key === undefined
      ? command('POST', '/gateways/facts', { by: 'hand', name: '', facts: [facts] })
      : command('PUT', '/gateways/facilities', { key, facts }));
    finish();
  };
  const fields = problem?.fields ?? {};
  const wrongOf = (name: string): string | undefined =>
    Object.entries(fields).find(([field]) => field.endsWith(name))?.[1];
  return (
    <form
      noValidate
      aria-label={facility ? `Change ${facility.call}` : 'A new one'}
      className="flex max-w-[56rem] flex-col gap-3 border-l-[3px] border-edge bg-raise px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (wrongPlace === undefined) void attempt(save);
      }}
    >
      <div className="grid gap-3 md:grid-cols-4">
        <SelectField
          label="What it is"
          value={values.kind}
          onChange={({ target }) => set({ ...values, kind: target.value as FacilityKind })}
        >
          {FACILITY_KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </SelectField>
        <TextField
          label="Call with SSID"
          mono
          value={values.call}
          error={wrongOf('call')}
          onChange={({ target }) => set({ ...values, call: target.value.toUpperCase() })}
        />
        {NUMBERS.map(([name, label]) => (
          <NumberField
            key={name}
            label={label}
            value={values[name]}
            error={wrongOf(name)}
            set={(value) => set({ ...values, [name]: value })}
          />
        ))}
        <TextField
          label="Place"
          mono
          hint="coordinates or a locator"
          value={values.place}
          error={wrongPlace ?? wrongOf('position')}
          onChange={({ target }) => set({ ...values, place: target.value })}
        />
        <TextField
          label="Mode"
          value={values.mode}
          error={wrongOf('mode')}
          onChange={({ target }) => set({ ...values, mode: target.value })}
        />
        <TextField
          label="Hours"
          hint="as 07-22; empty: not told"
          value={values.hours}
          error={wrongOf('hours')}
          onChange={({ target }) => set({ ...values, hours: target.value })}
        />
      </div>
      <TextField
        label="Notes"
        value={values.notes}
        error={wrongOf('notes')}
        onChange={({ target }) => set({ ...values, notes: target.value })}
      />
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" kind="main" disabled={isBusy}>
          {facility ? 'Keep the change' : 'Add it'}
        </Button>
        <Button onClick={finish}>{facility ? 'Leave it as it was' : 'Leave it'}</Button>
      </div>
    </form>
  );
}
