import { Controller, useWatch, type UseFormReturn } from 'react-hook-form';
import { longestComment } from '@mistpeak/core/beacon/beacon';
import { parseCallSign } from '@mistpeak/core/callsign/callsign';
import { ssidRole } from '@mistpeak/core/callsign/roles';
import { COMMON_SYMBOLS } from '@mistpeak/core/aprs/symbols';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePath, hopsAsked } from '@mistpeak/core/digipeating/alias';
import type { BeaconSettings } from '@mistpeak/contract/beacon';
import { SelectField, TextField } from '../../pieces/field';

export function BeaconFields({ form }: { form: UseFormReturn<BeaconSettings> }) {
  const { register, formState, control, setValue } = form;
  const { errors } = formState;
  const { source, path, compressed, comment, symbolTable } = useWatch({ control }) as BeaconSettings;
  return (
    <form className="flex flex-col gap-4" noValidate onSubmit={(event) => event.preventDefault()}>
      <TextField
        label="Call with SSID"
        mono
        hint={ssidHint(source)}
        error={errors.source?.message}
        {...register('source')}
      />
      <TextField
        label="Place"
        mono
        error={errors.place?.message}
        hint="29.6320 S 11.4050 W, 29 37.92 S 11 24.30 W, −29.632, −11.405 or a locator"
        {...register('place')}
      />
      <Controller
        control={control}
        name="symbolCode"
        render={({ field }) => (
          <SelectField
            label="Symbol"
            hint="How others’ maps draw you"
            error={errors.symbolCode?.message ?? errors.symbolTable?.message}
            value={symbolTable + field.value}
            onChange={({ target }) => {
              setValue('symbolTable', target.value.charAt(0), { shouldDirty: true });
              field.onChange(target.value.charAt(1));
            }}
          >
            {COMMON_SYMBOLS.map(({ table, code, name }) => (
              <option key={table + code} value={table + code}>
                {name} ({table}
                {code})
              </option>
            ))}
          </SelectField>
        )}
      />
      <TextField
        label="Comment"
        hint={`${comment.length} of ${longestComment(compressed)} characters. A voice frequency here lets others call you.`}
        error={errors.comment?.message}
        {...register('comment')}
      />
      <TextField label="Path" mono hint={pathHint(path)} error={errors.path?.message} {...register('path')} />
      <label className="flex items-start gap-2 text-[14px]">
        <input type="checkbox" className="mt-1 size-4 accent-[var(--proved)]" {...register('compressed')} />
        <span>
          Compressed position
          <span className="block text-[13px] text-ink3">
            Six octets shorter and finer; very old sets do not show it.
          </span>
        </span>
      </label>
    </form>
  );
}

function ssidHint(source: string): string {
  const call = parseCallSign(source);
  return isMalformed(call)
    ? 'As QH4MPK-7'
    : `SSID ${call.ssid}: others will read “${ssidRole(call.ssid)}”. Any number is allowed.`;
}

function pathHint(text: string): string {
  const path = parsePath(text);
  if (isMalformed(path)) return '';
  const hops = hopsAsked(path);
  if (hops === 0) return 'Nobody is asked to repeat it: direct only.';
  const many = hops > 2 ? ' Each further hop multiplies the copies: use this in empty country only.' : '';
  return `Asks for ${hops === 1 ? 'one repeat' : `up to ${hops} repeats`}.${many}`;
}
