import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm } from 'react-hook-form';
import { COMMON_SYMBOLS } from '@mistpeak/core/aprs/symbols';
import { OwnStationSettings, type OwnStationView } from '@mistpeak/contract/own-station';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { Button } from '../../pieces/button';
import { SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';

/** One device: which SSID, what it is for, how it is drawn. */
export function StationForm({
  ssid,
  station,
  close,
}: {
  ssid: number;
  station?: OwnStationView;
  close: () => void;
}) {
  const { problem, isBusy, attempt } = useAttempt();
  const { register, handleSubmit, formState, setValue } = useForm<OwnStationSettings>({
    resolver: classValidatorResolver(OwnStationSettings),
    defaultValues: station
      ? settingsOf(station)
      : { ssid, role: '', device: '', symbolTable: '/', symbolCode: '[' },
  });
  const { errors } = formState;
  const run = (task: () => Promise<unknown>): Promise<boolean> => attempt(() => task().then(close));
  const save = handleSubmit((settings) =>
    run(() =>
      station
        ? command('PUT', `/own-stations/${station.id}`, settings)
        : command('POST', '/own-stations', settings),
    ),
  );
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="flex flex-col gap-3">
      <div className="grid grid-cols-[1.4fr_1.2fr_5rem_1.2fr] gap-4 max-md:grid-cols-2">
        <TextField
          label="Device"
          hint="By capability, “two-pin handheld”"
          error={errors.device?.message}
          {...register('device')}
        />
        <TextField label="Role" hint="What it is for" error={errors.role?.message} {...register('role')} />
        <TextField
          label="SSID"
          mono
          inputMode="numeric"
          error={errors.ssid?.message}
          {...register('ssid', { valueAsNumber: true })}
        />
        <SelectField
          label="Symbol"
          error={errors.symbolCode?.message}
          defaultValue={(station?.symbolTable ?? '/') + (station?.symbolCode ?? '[')}
          onChange={({ target }) => {
            setValue('symbolTable', target.value.charAt(0));
            setValue('symbolCode', target.value.charAt(1));
          }}
        >
          {COMMON_SYMBOLS.map(({ table, code, name }) => (
            <option key={table + code} value={table + code}>
              {name}
            </option>
          ))}
        </SelectField>
      </div>
      {problem && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" kind="main" disabled={isBusy}>
          {station ? 'Save the station' : 'Add the station'}
        </Button>
        <Button onClick={close}>Cancel</Button>
        {station && (
          <Button
            kind="stop"
            onClick={() => void run(() => command('DELETE', `/own-stations/${station.id}`))}
          >
            Remove the station
          </Button>
        )}
      </div>
    </form>
  );
}

function settingsOf({ ssid, role, device, symbolTable, symbolCode }: OwnStationView): OwnStationSettings {
  return { ssid, role, device, symbolTable, symbolCode };
}
