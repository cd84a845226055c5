import { lazy, Suspense, useState } from 'react';
import { useWatch, type UseFormReturn } from 'react-hook-form';
import { formatPlace } from '@mistpeak/core/geo/place';
import type { OperatorView } from '@mistpeak/contract/operator';
import { BEACON_FORMATS } from '@mistpeak/core/beacon/composer';
import { parseCallSign } from '@mistpeak/core/callsign/callsign';
import { ssidRole } from '@mistpeak/core/callsign/roles';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePath, hopsAsked } from '@mistpeak/core/digipeating/alias';
import type { BeaconSettings } from '@mistpeak/contract/beacon';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { DevicePlace } from '../../pieces/device-place';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { FrequencyBuilder } from './frequency-builder';
import { useFormsOf } from './frame-of';
import { SymbolPicker } from '../../pieces/symbol-picker';

// The map is large.
const PlaceOnMap = lazy(() => import('./place-on-map'));

const FORMS = { plain: 'plain', compressed: 'compressed', 'mic-e': 'Mic-E' } as const;

export function BeaconFields({ form }: { form: UseFormReturn<BeaconSettings> }) {
  const { register, formState, control, setValue } = form;
  const { errors } = formState;
  const values = useWatch({ control }) as BeaconSettings;
  const { source, path, symbolTable, symbolCode, frequency, format, ambiguityDigits } = values;
  const forms = useFormsOf(values);
  const set = <Name extends keyof BeaconSettings>(name: Name, value: BeaconSettings[Name]): void =>
    setValue(name, value as never, { shouldDirty: true, shouldValidate: true });
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
      <PlaceChoices place={values.place} take={(place) => set('place', place)} />
      <SymbolPicker
        symbol={{ table: symbolTable, code: symbolCode }}
        take={({ table, code }) => {
          set('symbolTable', table);
          set('symbolCode', code);
        }}
      />
      <TextField
        label="Comment"
        hint="Short: each character takes its air time."
        error={errors.comment?.message}
        {...register('comment')}
      />
      <FrequencyBuilder
        text={frequency}
        error={errors.frequency?.message}
        take={(text) => set('frequency', text)}
      />
      <TextField label="Path" mono hint={pathHint(path)} error={errors.path?.message} {...register('path')} />
      <SelectField
        label="Form"
        error={errors.format?.message}
        hint={FORM_HINT}
        value={format}
        onChange={({ target }) => set('format', target.value as BeaconSettings['format'])}
      >
        <option value="smallest">the smallest that carries it</option>
        {BEACON_FORMATS.map((one) => {
          const size = forms?.[one];
          return (
            <option key={one} value={one} disabled={typeof size === 'string'}>
              {FORMS[one]}
              {typeof size === 'number' ? `, ${size} octets` : size === undefined ? '' : `: ${size}`}
            </option>
          );
        })}
      </SelectField>
      <details className="text-[14px]">
        <summary className="cursor-pointer font-[620] max-md:min-h-11">
          Altitude, power and height, ambiguity, messages
        </summary>
        <div className="grid grid-cols-2 gap-3 pt-2">
          <NumberField
            label="Altitude, m"
            value={values.altitudeM ?? undefined}
            error={errors.altitudeM?.message}
            set={(value) => set('altitudeM', value ?? null)}
          />
          <SelectField
            label="Leave out digits"
            hint="so that the place stays vague"
            value={ambiguityDigits}
            onChange={({ target }) => set('ambiguityDigits', Number(target.value))}
          >
            {AMBIGUITIES.map((words, digits) => (
              <option key={words} value={digits}>
                {words}
              </option>
            ))}
          </SelectField>
          <NumberField
            label="Power, W"
            hint="told with height and gain"
            value={values.phgPowerW ?? undefined}
            error={errors.phgPowerW?.message}
            set={(value) => set('phgPowerW', value ?? null)}
          />
          <NumberField
            label="Height, m"
            hint="above the terrain round it"
            value={values.phgHeightM ?? undefined}
            error={errors.phgHeightM?.message}
            set={(value) => set('phgHeightM', value ?? null)}
          />
          <NumberField
            label="Gain, dB"
            value={values.phgGainDb ?? undefined}
            error={errors.phgGainDb?.message}
            set={(value) => set('phgGainDb', value ?? null)}
          />
        </div>
        <label className="flex items-center gap-2 pt-3 max-md:min-h-11">
          <input type="checkbox" className="size-4 accent-[var(--proved)]" {...register('messaging')} />
          Says that messages are taken here
        </label>
      </details>
    </form>
  );
}

const FORM_HINT = 'Compressed and Mic-E are shorter and finer; very old sets show neither.';
/** 1.0.1, "Position ambiguity": tenths, hundredths … of a minute are left out. */
const AMBIGUITIES = [
  'none: as exact as it can be',
  'one: to 0.1′ (185 m)',
  'two: to 1′ (1.9 km)',
  'three: to 10′ (19 km)',
  'four: to 1° (111 km)',
];

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

/** Where this device is, where the receiver says, or a press on the map. */
function PlaceChoices({ place, take }: { place: string; take: (place: string) => void }) {
  const operator = useLive((state) => state.operator) as OperatorView;
  const fix = useLive((state) => state.whereabouts.fix);
  const [isOpen, setOpen] = useState(false);
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-2">
        <DevicePlace take={take} />
        {fix && <Button onClick={() => take(formatPlace(fix.position))}>Where the receiver is</Button>}
        <Button aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {isOpen ? 'Close the map' : 'On the map …'}
        </Button>
      </div>
      {isOpen && (
        <Suspense fallback={<p className="text-ink2">Unfolding the map …</p>}>
          <PlaceOnMap operator={operator} place={place} take={take} />
        </Suspense>
      )}
    </div>
  );
}
