import type { ReactNode } from 'react';
import { useLive } from '../live/store';
import { SelectField } from './field';

/** One of the links, by its name; children: further ways. */
export function LinkField({
  label,
  value,
  error,
  set,
  children,
}: {
  label: string;
  value: string;
  error: string | undefined;
  set: (linkId: string) => void;
  children?: ReactNode;
}) {
  const links = useLive((state) => state.links);
  return (
    <SelectField label={label} value={value} error={error} onChange={({ target }) => set(target.value)}>
      {links.map(({ id, settings: { name } }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
      {children}
    </SelectField>
  );
}
