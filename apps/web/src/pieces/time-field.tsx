import { TextField } from './field';

/** `2026-10-12T14:05`, as an input of date and time writes it, in UTC. */
export const writtenTime = (ms: number | undefined): string =>
  ms === undefined ? '' : new Date(ms).toISOString().slice(0, 16);

/** undefined: nothing, or no time. */
export function readTime(text: string): number | undefined {
  const ms = Date.parse(`${text}Z`);
  return Number.isNaN(ms) ? undefined : ms;
}

/** A time in UTC. */
export function TimeField({
  label,
  hint = 'UTC',
  value,
  error,
  set,
}: {
  label: string;
  hint?: string;
  value: number | undefined;
  error?: string | undefined;
  set: (ms: number | undefined) => void;
}) {
  return (
    <TextField
      type="datetime-local"
      label={label}
      hint={hint}
      mono
      value={writtenTime(value)}
      error={error}
      onChange={({ target }) => set(readTime(target.value))}
    />
  );
}
