import type { SessionParameters } from '@mistpeak/core/throughput/session-parameters';
import { Button } from '../../pieces/button';
import { NumberField } from '../../pieces/field';

const FIELDS = [
  ['packetOctets', 'PACLEN', 'octets in a frame, 1 to 256', 1],
  ['window8', 'MAXFRAME', 'frames on the way, 1 to 7', 1],
  ['t1Ms', 'T1, s', 'until an answer is asked for', 1000],
  ['t2Ms', 'T2, s', 'an acknowledgement may wait', 1000],
  ['t3Ms', 'T3, s', 'until a quiet link is asked', 1000],
  ['retries', 'N2', 'tries without progress, 1 to 25', 1],
] as const;

/** What may be set of a session; computed for the link at first. */
export function ParameterFields({
  values,
  errors,
  set,
  reset,
}: {
  values: SessionParameters;
  errors: Readonly<Record<string, string>>;
  set: (values: SessionParameters) => void;
  reset?: () => void;
}) {
  return (
    <div className="flex flex-col gap-2 pt-2">
      <div className="grid grid-cols-2 gap-3 md:grid-cols-3">
        {FIELDS.map(([name, label, hint, unit]) => (
          <NumberField
            key={name}
            label={label}
            hint={hint}
            value={values[name] / unit}
            error={errors[name]}
            set={(value = NaN) => set({ ...values, [name]: Math.round(value * unit) })}
          />
        ))}
      </div>
      <label className="flex min-h-8 items-center gap-2.5 text-[14px] max-md:min-h-11">
        <input
          type="checkbox"
          className="size-4.5 shrink-0"
          checked={values.extended}
          onChange={({ target }) => set({ ...values, extended: target.checked })}
        />
        Ask for numbers to 127 first (version 2.2); who does not know them is called with numbers to 7
      </label>
      {errors.parameters && (
        <p role="alert" className="text-[13.5px] font-[560] text-stop">
          {errors.parameters}
        </p>
      )}
      {reset && (
        <div>
          <Button onClick={reset}>Compute them again</Button>
        </div>
      )}
    </div>
  );
}
