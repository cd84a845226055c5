import { useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePlace } from '@mistpeak/core/geo/place';
import type { WatchLine } from '@mistpeak/core/watch/watch-list';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';

type Numbers = 'everyMin' | 'stillMin' | 'offM' | 'finishRadiusM';
type Values = Omit<WatchLine, Numbers> & { [Key in Numbers]?: number | undefined };

/** For an input of local time, to the minute. */
const localTime = (atMs: number | undefined): string => {
  if (atMs === undefined) return '';
  const date = new Date(atMs);
  return new Date(atMs - date.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
};

/** One line of the list. */
export function LineForm({
  line,
  legs,
  take,
  close,
}: {
  line: WatchLine;
  legs: readonly string[];
  take: (line: WatchLine) => void;
  close: () => void;
}) {
  const [values, setValues] = useState<Values>(line);
  const [isTold, tell] = useState(false);
  const set = (more: Partial<Values>): void => setValues({ ...values, ...more });
  const errors = isTold ? errorsOf(values) : {};
  return (
    <form
      noValidate
      aria-label={line.call === '' ? 'A new line' : `Line of ${line.call}`}
      className="flex w-full max-w-[52rem] flex-col gap-2 border-l-[3px] border-edge bg-raise px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        tell(true);
        if (Object.keys(errorsOf(values)).length > 0) return;
        const { stillMin, ...rest } = values;
        const call = values.call.trim().toUpperCase();
        take({ ...(rest as WatchLine), call, ...(stillMin === undefined ? {} : { stillMin }) });
      }}
    >
      <div className="grid gap-x-3 gap-y-1 md:grid-cols-4">
        <TextField
          label="Call"
          mono
          value={values.call}
          error={errors.call}
          onChange={({ target }) => set({ call: target.value })}
        />
        <TextField
          label="What people call them"
          hint="Cart A, lamps"
          value={values.label}
          maxLength={60}
          onChange={({ target }) => set({ label: target.value })}
        />
        <TextField
          label="Group"
          value={values.group}
          maxLength={60}
          onChange={({ target }) => set({ group: target.value })}
        />
        <TextField
          label="Reached by voice"
          hint="a number, or a channel"
          value={values.contact}
          maxLength={60}
          onChange={({ target }) => set({ contact: target.value })}
        />
        <NumberField
          label="A packet every, min"
          hint="two missed in a row are an alarm"
          value={values.everyMin}
          error={errors.everyMin}
          set={(everyMin) => set({ everyMin })}
        />
        <NumberField
          label="Stands still, min"
          hint="empty: they may"
          value={values.stillMin}
          error={errors.stillMin}
          set={(stillMin) => set({ stillMin })}
        />
        <SelectField
          label="Way or area"
          value={values.leg}
          onChange={({ target }) => set({ leg: target.value })}
        >
          <option value="">none</option>
          {legs.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </SelectField>
        <NumberField
          label="So far off is still on it, m"
          value={values.offM}
          error={errors.offM}
          set={(offM) => set({ offM })}
        />
        <TextField
          label="Finish"
          mono
          hint="a place; empty: none"
          value={values.finish}
          error={errors.finish}
          onChange={({ target }) => set({ finish: target.value })}
        />
        <NumberField
          label="Within, m"
          value={values.finishRadiusM}
          error={errors.finishRadiusM}
          set={(finishRadiusM) => set({ finishRadiusM })}
        />
        <TextField
          label="Due there"
          hint="your local time; empty: any"
          type="datetime-local"
          value={localTime(values.dueAtMs)}
          onChange={({ target }) => {
            const { dueAtMs: _, ...rest } = values;
            const atMs = Date.parse(target.value);
            setValues(Number.isFinite(atMs) ? { ...rest, dueAtMs: atMs } : rest);
          }}
        />
      </div>
      <div className="flex gap-2">
        <Button type="submit" kind="main">
          Put it on the list
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </form>
  );
}

function errorsOf(values: Values): Partial<Record<keyof WatchLine, string>> {
  const place = values.finish.trim() === '' ? undefined : parsePlace(values.finish);
  const isWithin = (value: number | undefined, from: number, to: number): boolean =>
    value !== undefined && value >= from && value <= to;
  return {
    ...(values.call.trim() === '' ? { call: 'a call, or an object’s name' } : {}),
    ...(isWithin(values.everyMin, 0.5, 1440) ? {} : { everyMin: 'from half a minute to a day' }),
    ...(values.stillMin === undefined || isWithin(values.stillMin, 1, 1440)
      ? {}
      : { stillMin: 'from a minute to a day' }),
    ...(isWithin(values.offM, 20, 50_000) ? {} : { offM: 'from 20 m to 50 km' }),
    ...(isWithin(values.finishRadiusM, 20, 20_000) ? {} : { finishRadiusM: 'from 20 m to 20 km' }),
    ...(place && isMalformed(place) ? { finish: place.malformed } : {}),
  };
}
