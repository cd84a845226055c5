import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useWatch } from 'react-hook-form';
import { isDemoCall } from '@mistpeak/core/callsign/callsign';
import { formatPlace } from '@mistpeak/core/geo/place';
import { OperatorSettings, OTHER_REGION, REGIONS, type OperatorView } from '@mistpeak/contract/operator';
import { command } from '../api';
import { useAttempt } from '../live/attempt';
import { useDraftedForm } from '../live/drafted-form';
import { Button } from '../pieces/button';
import { SelectField, TextField } from '../pieces/field';
import { DraftedNotes } from '../pieces/drafted-notes';
import { ProblemNote } from '../pieces/problem-note';
import { AS_NUMBER } from './as-number';

/** Who holds the licence, where, and how things are shown; empty at the first visit. */
export function OperatorForm({
  operator,
  label,
  saved,
}: {
  operator?: OperatorView;
  label: string;
  saved?: () => void;
}) {
  const { problem, isBusy, attempt } = useAttempt();
  const drafted = useDraftedForm<OperatorSettings>({
    draft: 'operator',
    resolver: classValidatorResolver(OperatorSettings),
    saved: valuesOf(operator),
  });
  const { register, handleSubmit, formState, control, setValue, setError } = drafted.form;
  const { errors } = formState;
  const call = useWatch({ control, name: 'call' });
  const region = useWatch({ control, name: 'region' });
  const save = handleSubmit((settings) =>
    attempt(async () => {
      await command('PUT', '/operator', { ...settings, ...(operator ? { version: operator.version } : {}) });
      drafted.drop(settings);
      saved?.();
    }),
  );
  const locate = (): void =>
    navigator.geolocation.getCurrentPosition(
      ({ coords: { latitude: latitudeDeg, longitude: longitudeDeg } }) =>
        setValue('place', formatPlace({ latitudeDeg, longitudeDeg }), {
          shouldValidate: true,
          shouldDirty: true,
        }),
      () => setError('place', { message: 'the browser gave no position: type it in' }),
    );
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="flex flex-col gap-4">
      <TextField
        label="Your call sign"
        mono
        className="max-w-56 uppercase"
        hint={
          isDemoCall(call)
            ? 'A demo call: it can be sent to stand-ins only.'
            : 'The call on your licence, without an SSID. You choose SSIDs later, one for each device.'
        }
        error={errors.call?.message}
        {...register('call')}
      />
      <SelectField
        label="Region"
        hint="Sets the usual APRS channel; your local band plan comes first."
        error={errors.region?.message}
        {...register('region')}
      >
        <option value="">Choose …</option>
        {REGIONS.map(({ id, name, channelMHz }) => (
          <option key={id} value={id}>
            {name}, {channelMHz.toFixed(3)} MHz
          </option>
        ))}
        <option value={OTHER_REGION}>Another, with a channel of its own</option>
      </SelectField>
      {region === OTHER_REGION && (
        <TextField
          label="Frequency of your APRS channel, MHz"
          mono
          inputMode="decimal"
          className="max-w-56"
          hint="As your local band plan has it"
          error={errors.channelMHz?.message}
          {...register('channelMHz', AS_NUMBER)}
        />
      )}
      <TextField
        label="Place"
        mono
        hint="As 29.6320 S 11.4050 W, −29.632, −11.405, 29 37.92 S 11 24.30 W or a locator. It may stay empty: then distances and bearings are not told."
        error={errors.place?.message}
        {...register('place')}
      />
      <div className="grid grid-cols-2 gap-4 max-sm:grid-cols-1">
        <SelectField label="Units" error={errors.units?.message} {...register('units')}>
          <option value="metric">Metric: km, m/s, °C</option>
          <option value="imperial">Imperial: miles, mph, °F</option>
          <option value="nautical">Nautical: nautical miles, knots</option>
        </SelectField>
        <SelectField label="Coordinates" error={errors.coordinates?.message} {...register('coordinates')}>
          <option value="decimal">Decimal degrees</option>
          <option value="minutes">Degrees and minutes</option>
          <option value="locator">Locator</option>
        </SelectField>
      </div>
      <DraftedNotes drafted={drafted} labels={LABELS} />
      {problem && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" kind="main" disabled={isBusy || drafted.elsewhere !== undefined}>
          {label}
        </Button>
        <Button onClick={locate}>Take the place from this browser</Button>
      </div>
    </form>
  );
}

const LABELS = {
  call: 'Call sign',
  region: 'Region',
  channelMHz: 'Channel, MHz',
  place: 'Place',
  units: 'Units',
  coordinates: 'Coordinates',
} as const;

function valuesOf(operator: OperatorView | undefined): OperatorSettings {
  const { call = '', region = '', units = 'metric', coordinates = 'decimal', position } = operator ?? {};
  const own = operator?.region === OTHER_REGION ? { channelMHz: operator.channelMHz } : {};
  return { call, region, ...own, units, coordinates, place: position ? formatPlace(position) : '' };
}
