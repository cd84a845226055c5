import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useWatch } from 'react-hook-form';
import { COMMON_SYMBOLS } from '@mistpeak/core/aprs/symbols';
import { OwnStationSettings, type OwnStationView } from '@mistpeak/contract/own-station';
import { command } from '../../api';
import { AS_NUMBER } from '../../forms/as-number';
import { useAttempt } from '../../live/attempt';
import { useDraftedForm } from '../../live/drafted-form';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { DraftedNotes } from '../../pieces/drafted-notes';
import { SelectField, TextField } from '../../pieces/field';
import { UsedBy } from '../../pieces/used-by';
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
  const drafted = useDraftedForm<OwnStationSettings>({
    draft: `station ${station?.id ?? `new ${ssid}`}`,
    resolver: classValidatorResolver(OwnStationSettings),
    saved: station ? settingsOf(station) : { ssid, role: '', device: '', symbolTable: '/', symbolCode: '[' },
  });
  const { register, handleSubmit, formState, setValue, control } = drafted.form;
  const [table, code] = useWatch({ control, name: ['symbolTable', 'symbolCode'] });
  const { errors } = formState;
  const links = useLive((state) => state.links);
  const usedBy = station ? links.filter(({ settings }) => settings.stationId === station.id) : [];
  const giveUp = (): void => {
    drafted.drop();
    close();
  };
  const run = (task: () => Promise<unknown>): Promise<boolean> => attempt(() => task().then(giveUp));
  const save = handleSubmit((settings) =>
    run(() =>
      station
        ? command('PUT', `/own-stations/${station.id}`, { ...settings, version: station.version })
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
          {...register('ssid', AS_NUMBER)}
        />
        <SelectField
          label="Symbol"
          error={errors.symbolCode?.message}
          value={table + code}
          onChange={({ target }) => {
            setValue('symbolTable', target.value.charAt(0), { shouldDirty: true });
            setValue('symbolCode', target.value.charAt(1), { shouldDirty: true });
          }}
        >
          {COMMON_SYMBOLS.map(({ table, code, name }) => (
            <option key={table + code} value={table + code}>
              {name}
            </option>
          ))}
        </SelectField>
      </div>
      <DraftedNotes drafted={drafted} labels={LABELS} />
      {problem && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" kind="main" disabled={isBusy || drafted.elsewhere !== undefined}>
          {station ? 'Save the station' : 'Add the station'}
        </Button>
        <Button onClick={giveUp}>Cancel</Button>
        {station && (
          <Button
            kind="stop"
            onClick={() => void run(() => command('DELETE', `/own-stations/${station.id}`))}
          >
            Remove the station
          </Button>
        )}
        <UsedBy names={usedBy.map(({ settings }) => settings.name)} />
      </div>
    </form>
  );
}

const LABELS = {
  device: 'Device',
  role: 'Role',
  ssid: 'SSID',
  symbolTable: 'Symbol table',
  symbolCode: 'Symbol',
} as const;

function settingsOf({ ssid, role, device, symbolTable, symbolCode }: OwnStationView): OwnStationSettings {
  return { ssid, role, device, symbolTable, symbolCode };
}
