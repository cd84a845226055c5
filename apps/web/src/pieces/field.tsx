import { useId, useState, type ComponentProps, type ReactNode } from 'react';
import { typedNumber } from '@mistpeak/core/units/typed-number';

interface Described {
  readonly label: string;
  /** One line that explains the term. */
  readonly hint?: ReactNode;
  readonly error?: string | undefined;
}

const BOX =
  'w-full rounded-[7px] border-[1.5px] bg-raise px-2.5 py-1.5 text-ink aria-invalid:border-stop border-edge max-md:min-h-11';

function Labelled({
  label,
  hint,
  error,
  children,
}: Described & { children: (ids: { id: string; describedBy: string }) => ReactNode }) {
  const id = useId();
  const describedBy = `${id}-about`;
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="text-[13.5px] font-[620]">
        {label}
      </label>
      {children({ id, describedBy })}
      <p
        id={describedBy}
        className={`text-[13px] leading-snug ${error ? 'font-[560] text-stop' : 'text-ink3'}`}
      >
        {error ? <span role="alert">{sentence(error)}</span> : hint}
      </p>
    </div>
  );
}

/** A refusal as a sentence. */
export function sentence(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}${/[.!?]$/.test(text) ? '' : '.'}`;
}

export function TextField({
  label,
  hint,
  error,
  mono = false,
  className = '',
  ...rest
}: Described & { mono?: boolean } & ComponentProps<'input'>) {
  return (
    <Labelled label={label} hint={hint} error={error}>
      {({ id, describedBy }) => (
        <input
          id={id}
          aria-describedby={describedBy}
          aria-invalid={error !== undefined}
          autoComplete="off"
          spellCheck={false}
          className={`${BOX} ${mono ? 'font-mono' : ''} ${className}`}
          {...rest}
        />
      )}
    </Labelled>
  );
}

interface TypedNumber {
  readonly value: number | undefined;
  readonly set: (value: number | undefined) => void;
}

/** What an input shows and takes of a number typed with a comma or a point: NaN while it is none, undefined when it is empty. */
export function useTypedNumber({ value, set }: TypedNumber): ComponentProps<'input'> {
  const written = Number.isFinite(value) ? String(value) : '';
  const [text, setText] = useState(written);
  // Set from elsewhere meanwhile: what stands there is that.
  if (!Object.is(typedNumber(text), typedNumber(written)) && !Number.isNaN(value)) setText(written);
  return {
    inputMode: 'decimal',
    value: text,
    onChange: ({ target }) => {
      setText(target.value);
      set(target.value.trim() === '' ? undefined : typedNumber(target.value));
    },
  };
}

export function NumberField({ value, set, ...rest }: Described & TypedNumber) {
  return <TextField mono {...useTypedNumber({ value, set })} {...rest} />;
}

export function SelectField({ label, hint, error, children, ...rest }: Described & ComponentProps<'select'>) {
  return (
    <Labelled label={label} hint={hint} error={error}>
      {({ id, describedBy }) => (
        <select
          id={id}
          aria-describedby={describedBy}
          aria-invalid={error !== undefined}
          className={BOX}
          {...rest}
        >
          {children}
        </select>
      )}
    </Labelled>
  );
}
