import { useLive } from '../live/store';
import { SelectField } from './field';

/** As which of my stations. */
export function FromField({
  label,
  hint,
  value,
  error,
  set,
}: {
  label: string;
  hint?: string;
  value: string;
  error: string | undefined;
  set: (call: string) => void;
}) {
  const calls = useLive(({ ownStations, operator, locks }) =>
    [
      value,
      ...ownStations.map(({ call }) => call),
      operator?.call ?? '',
      ...[...locks.values()].map(({ call = '' }) => call),
    ].join(' '),
  );
  return (
    <SelectField
      label={label}
      hint={hint}
      value={value}
      error={error}
      onChange={({ target }) => set(target.value)}
    >
      {[...new Set(calls.split(' '))]
        .filter((call) => call !== '')
        .map((call) => (
          <option key={call}>{call}</option>
        ))}
    </SelectField>
  );
}
