import { useEffect, useState } from 'react';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useWatch, type UseFormReturn } from 'react-hook-form';
import { USUAL_KISS_PARAMETERS } from '@mistpeak/core/kiss/parameters';
import {
  AIR_RATES,
  isLent,
  LinkSettings,
  SERIAL_SPEEDS,
  type LinkView,
  type PortView,
} from '@mistpeak/contract/link';
import { USUAL_SOUND_SETUP } from '@mistpeak/contract/sound';
import { command } from '../../api';
import { AS_NUMBER } from '../../forms/as-number';
import { useAttempt } from '../../live/attempt';
import { useDraftedForm } from '../../live/drafted-form';
import { useIsHere } from '../../live/is-here';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { DraftedNotes } from '../../pieces/drafted-notes';
import { SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';
import { SoundFields, soundThatFits } from './sound-fields';

/** 8001: the one neutral port of ours; modem programs show theirs (common practice, no source). */
const NEW_LINK: LinkSettings = {
  name: '',
  kind: 'network',
  host: '127.0.0.1',
  port: 8001,
  device: '',
  speed: 9600,
  sound: USUAL_SOUND_SETUP,
  airRate: 1200,
  ...USUAL_KISS_PARAMETERS,
};

const LABELS = {
  name: 'Name',
  kind: 'Kind',
  host: 'Host',
  port: 'Port',
  device: 'Serial port',
  speed: 'Speed',
  sound: 'Sound card',
  airRate: 'Rate on the air',
  txDelayMs: 'TXDELAY, ms',
  persistence: 'Persistence',
  slotTimeMs: 'Slot time, ms',
  txTailMs: 'Tail, ms',
} as const;

type Form = UseFormReturn<LinkSettings>;

/** What the port finder found. */
export type Found = Pick<LinkSettings, 'kind' | 'device' | 'speed'>;

/** Adds a link, or changes one. */
export function LinkForm({
  link,
  found,
  done,
}: {
  link?: LinkView;
  found?: Found;
  done: (saved?: LinkView) => void;
}) {
  const { problem, isBusy, attempt } = useAttempt();
  const isHere = useIsHere();
  const drafted = useDraftedForm<LinkSettings>({
    draft: `link ${link?.id ?? `new ${found?.device ?? ''}`}`,
    resolver: classValidatorResolver(LinkSettings),
    saved: { ...NEW_LINK, ...found, ...link?.settings },
  });
  const { form } = drafted;
  const { register, handleSubmit, formState, control } = form;
  const kind = useWatch({ control, name: 'kind' });
  const ownStations = useLive((state) => state.ownStations);
  const save = handleSubmit(async (settings) => {
    await attempt(async () => {
      const version = link ? { version: link.version } : {};
      const wanted = { ...onlyWhatFits(settings), ...version };
      const path = link ? `/links/${link.id}` : '/links';
      const saved = await command<LinkView>(link ? 'PUT' : 'POST', path, wanted);
      // A link to a device at a browser opens when the device is chosen.
      if (!link && !isLent(saved.settings)) await command('POST', `/links/${saved.id}/open`);
      drafted.drop();
      if (isHere.current) done(saved);
    });
  });
  return (
    <form
      onSubmit={(event) => void save(event)}
      noValidate
      className="mt-3 flex max-w-[44rem] flex-col gap-4"
    >
      <div className="grid grid-cols-2 gap-4 max-sm:grid-cols-1">
        <TextField
          label="Name"
          hint="As you call it, “pocket TNC” say"
          error={formState.errors.name?.message}
          {...register('name')}
        />
        <SelectField label="Kind" hint="How this machine reaches the TNC" {...register('kind')}>
          <option value="network">Network: KISS over TCP</option>
          <option value="serial">Serial port of the machine of Mistpeak</option>
          <option value="page-serial">Serial port at this browser (USB, Bluetooth serial)</option>
          <option value="page-bluetooth">Bluetooth LE TNC at this browser</option>
          <option value="page-sound">Sound card at this browser: Mistpeak is the modem</option>
          <option value="sound-card">Sound card of the machine of Mistpeak</option>
        </SelectField>
        {kind === 'network' && <NetworkFields form={form} />}
        {kind === 'serial' && <PortField form={form} />}
        {(kind === 'serial' || kind === 'page-serial') && <SpeedField form={form} />}
      </div>
      {(kind === 'page-sound' || kind === 'sound-card') && (
        <SoundFields form={form} isHere={kind === 'page-sound'} />
      )}
      {ownStations.length > 0 && (
        <SelectField
          label="Transmits as"
          hint="The call that arming proposes; each radio may have its own"
          {...register('stationId', { setValueAs: (id: string | null) => id || null })}
        >
          <option value="">as I say when I arm it</option>
          {ownStations.map(({ id, call, device }) => (
            <option key={id} value={id}>
              {call}, {device}
            </option>
          ))}
        </SelectField>
      )}
      <AccessFields form={form} />
      <DraftedNotes drafted={drafted} labels={LABELS} />
      {problem && <ProblemNote problem={problem} />}
      <div className="flex gap-2">
        <Button type="submit" kind="main" disabled={isBusy || drafted.elsewhere !== undefined}>
          {link ? 'Save the link' : kind.startsWith('page-') ? 'Add the link' : 'Add and open the link'}
        </Button>
        <Button
          onClick={() => {
            drafted.drop();
            done();
          }}
        >
          Cancel
        </Button>
      </div>
    </form>
  );
}

/** The fields of the other kind are not sent: they may hold half-typed text. */
function onlyWhatFits(settings: LinkSettings): object {
  const { host, port, device, speed, sound, ...rest } = settings;
  switch (settings.kind) {
    case 'network':
      return { ...rest, host, port };
    case 'serial':
      return { ...rest, device, speed };
    case 'page-serial':
      return { ...rest, speed };
    case 'page-bluetooth':
      return rest;
    case 'page-sound':
    case 'sound-card':
      return { ...rest, sound: soundThatFits(sound ?? USUAL_SOUND_SETUP) };
  }
}

function NetworkFields({ form: { register, formState } }: { form: Form }) {
  return (
    <>
      <TextField
        label="Host"
        mono
        hint="A name or an address"
        error={formState.errors.host?.message}
        {...register('host')}
      />
      <TextField
        label="Port"
        mono
        inputMode="numeric"
        hint="The one that the modem program shows; both sides must agree"
        error={formState.errors.port?.message}
        {...register('port', AS_NUMBER)}
      />
    </>
  );
}

function PortField({ form: { register, formState } }: { form: Form }) {
  const [ports, setPorts] = useState<readonly PortView[]>([]);
  const look = (): void => void command<PortView[]>('GET', '/links/ports').then(setPorts, () => setPorts([]));
  useEffect(look, []);
  return (
    <div>
      <TextField
        label="Port"
        mono
        list="serial-ports"
        hint={
          ports.length === 0
            ? 'No port was found; a path may be typed.'
            : `${ports.length} found on the server machine`
        }
        error={formState.errors.device?.message}
        {...register('device')}
      />
      <datalist id="serial-ports">
        {ports.map(({ path, about }) => (
          <option key={path} value={path}>
            {about}
          </option>
        ))}
      </datalist>
      <Button className="mt-1.5" onClick={look}>
        Look for ports again
      </Button>
    </div>
  );
}

function SpeedField({ form: { register, formState } }: { form: Form }) {
  return (
    <SelectField
      label="Speed"
      hint="Between computer and TNC; flow control is none"
      error={formState.errors.speed?.message}
      {...register('speed', AS_NUMBER)}
    >
      {SERIAL_SPEEDS.map((speed) => (
        <option key={speed} value={speed}>
          {speed} Bd
        </option>
      ))}
    </SelectField>
  );
}

function AccessFields({ form: { register, formState } }: { form: Form }) {
  const { errors } = formState;
  return (
    <fieldset className="grid grid-cols-5 gap-4 border-t border-line pt-3 max-lg:grid-cols-3 max-sm:grid-cols-2">
      <legend className="sr-only">Channel access</legend>
      <SelectField
        label="Rate on the air"
        hint="1200 for APRS"
        error={errors.airRate?.message}
        {...register('airRate', AS_NUMBER)}
      >
        {AIR_RATES.map((rate) => (
          <option key={rate} value={rate}>
            {rate} Bd
          </option>
        ))}
      </SelectField>
      <TextField
        label="TXDELAY, ms"
        mono
        inputMode="numeric"
        hint="Key-down to data; VOX 500 or more"
        error={errors.txDelayMs?.message}
        {...register('txDelayMs', AS_NUMBER)}
      />
      <TextField
        label="Persistence"
        mono
        inputMode="decimal"
        hint="0 to 1: chance to send in a free slot"
        error={errors.persistence?.message}
        {...register('persistence', AS_NUMBER)}
      />
      <TextField
        label="Slot time, ms"
        mono
        inputMode="numeric"
        hint="Wait between two tries"
        error={errors.slotTimeMs?.message}
        {...register('slotTimeMs', AS_NUMBER)}
      />
      <TextField
        label="Tail, ms"
        mono
        inputMode="numeric"
        hint="Key held after the frame"
        error={errors.txTailMs?.message}
        {...register('txTailMs', AS_NUMBER)}
      />
    </fieldset>
  );
}
