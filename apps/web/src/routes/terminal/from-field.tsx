import { useLive } from '../../live/store';
import { SelectField } from '../../pieces/field';

/** As which of my stations. */
export function FromField({
  value,
  error,
  set,
}: {
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
      label="As"
      value={value}
      error={error}
      hint="the transmitter must be armed for it"
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
