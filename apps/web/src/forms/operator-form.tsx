import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm, useWatch } from 'react-hook-form';
import { isDemoCall } from '@mistpeak/core/callsign/callsign';
import { OperatorSettings, REGIONS, type OperatorView } from '@mistpeak/contract/operator';
import { command } from '../api';
import { useAttempt } from '../live/attempt';
import { Button } from '../pieces/button';
import { SelectField, TextField } from '../pieces/field';
import { ProblemNote } from '../pieces/problem-note';

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
  const { problem, attempt } = useAttempt();
  const { register, handleSubmit, formState, control, setValue, setError } = useForm<OperatorSettings>({
    resolver: classValidatorResolver(OperatorSettings),
    defaultValues: valuesOf(operator),
  });
  const { errors } = formState;
  const call = useWatch({ control, name: 'call' });
  const save = handleSubmit(async (settings) => {
    await attempt(() => command('PUT', '/operator', settings).then(saved));
  });
  const locate = (): void =>
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        setValue('latitude', coords.latitude.toFixed(5), { shouldValidate: true });
        setValue('longitude', coords.longitude.toFixed(5), { shouldValidate: true });
      },
      () => setError('latitude', { message: 'the browser gave no position: type it in' }),
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
      </SelectField>
      <div className="grid grid-cols-2 gap-4 max-sm:grid-cols-1">
        <TextField
          label="Latitude"
          mono
          hint="As 29.6320 S, −29.632 or 29 37.92 S"
          error={errors.latitude?.message}
          {...register('latitude')}
        />
        <TextField
          label="Longitude"
          mono
          hint="As 11.4050 W, −11.405 or 11 24.30 W"
          error={errors.longitude?.message}
          {...register('longitude')}
        />
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
      {problem && <ProblemNote problem={problem} />}
      <div className="flex gap-2">
        <Button type="submit" kind="main" disabled={formState.isSubmitting}>
          {label}
        </Button>
        <Button onClick={locate}>Take the place from this browser</Button>
      </div>
    </form>
  );
}

function valuesOf(operator: OperatorView | undefined): OperatorSettings {
  const { call = '', region = '', units = 'metric', coordinates = 'decimal' } = operator ?? {};
  return {
    call,
    region,
    units,
    coordinates,
    latitude: operator ? String(operator.latitudeDeg) : '',
    longitude: operator ? String(operator.longitudeDeg) : '',
  };
}
