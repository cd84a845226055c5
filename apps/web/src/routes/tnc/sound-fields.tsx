import { useEffect, useState } from 'react';
import { useWatch, type UseFormReturn } from 'react-hook-form';
import { DECODERS } from '@mistpeak/core/modem/branches';
import type { LinkSettings } from '@mistpeak/contract/link';
import {
  KEY_LINES,
  SOUND_RATES,
  USUAL_SOUND_SETUP,
  whySoundIsRefused,
  type SoundKeying,
  type SoundSetup,
} from '@mistpeak/contract/sound';
import { listSoundDevices } from '../../adapters/sound/sound-card';
import { command } from '../../api';
import { AS_NUMBER, AS_NUMBER_OR_NONE } from '../../forms/as-number';
import { SelectField, TextField } from '../../pieces/field';

const KEYING_WORDS: Record<SoundKeying, string> = {
  none: 'not at all: receive only',
  vox: 'by the sound itself (VOX)',
  tone: 'by a tone on the other channel',
  line: 'by a serial line, RTS or DTR',
  pin: 'by the pin of a USB sound chip',
};
const DECODER_WORDS = {
  default: 'default: reads most',
  wide: 'wide: reads much, and reckons less',
  light: 'light: for slow devices',
};

interface Devices {
  readonly inputs: readonly string[];
  readonly outputs: readonly string[];
}

/** The set-up of a sound card; isHere: it is at this browser. */
export function SoundFields({ form, isHere }: { form: UseFormReturn<LinkSettings>; isHere: boolean }) {
  const { register, formState, control } = form;
  const errors = formState.errors.sound;
  const sound = useWatch({ control, name: 'sound' }) ?? USUAL_SOUND_SETUP;
  const devices = useDevices(isHere);
  const { keying } = sound;
  const refused = whySoundIsRefused(sound);
  const keyings = (Object.keys(KEYING_WORDS) as SoundKeying[]).filter(
    (one) => !isHere || (one !== 'line' && one !== 'pin'),
  );
  return (
    <fieldset className="grid grid-cols-3 gap-4 border-t border-line pt-3 max-lg:grid-cols-2 max-sm:grid-cols-1">
      <legend className="sr-only">Sound card</legend>
      <DeviceField form={form} side="input" label="Sound from" names={devices.inputs} />
      <SelectField
        label="Channel heard"
        hint="Where the cable brings the receiver"
        {...register('sound.hears')}
      >
        <option value="left">left</option>
        <option value="right">right</option>
        <option value="mix">both, mixed</option>
      </SelectField>
      <SelectField
        label="Decoder"
        hint="A slow device takes the light one by itself"
        {...register('sound.decoder')}
      >
        {DECODERS.map((one) => (
          <option key={one} value={one}>
            {DECODER_WORDS[one]}
          </option>
        ))}
      </SelectField>
      <SelectField label="The radio is keyed" hint="How it is made to transmit" {...register('sound.keying')}>
        {keyings.map((one) => (
          <option key={one} value={one}>
            {KEYING_WORDS[one]}
          </option>
        ))}
      </SelectField>
      {keying !== 'none' && (
        <>
          <DeviceField form={form} side="output" label="Sound to" names={devices.outputs} />
          <SelectField
            label="Data goes out on"
            hint="A keying tone takes the other"
            error={keying === 'tone' && sound.sendsOn === 'both' ? refused : undefined}
            {...register('sound.sendsOn')}
          >
            <option value="both">both channels</option>
            <option value="left">left</option>
            <option value="right">right</option>
          </SelectField>
          <TextField
            label="Level, dBFS"
            mono
            inputMode="decimal"
            hint="Of what is sent; the transmit check finds it"
            error={errors?.levelDbfs?.message}
            {...register('sound.levelDbfs', AS_NUMBER)}
          />
          <TextField
            label="Wait for any sound above, dBFS"
            mono
            inputMode="decimal"
            hint={
              sound.soundAboveDbfs === undefined
                ? 'Empty: for packets and voices alone, so that an open squelch is a free channel'
                : 'An open squelch then blocks transmitting for good'
            }
            error={errors?.soundAboveDbfs?.message}
            {...register('sound.soundAboveDbfs', AS_NUMBER_OR_NONE)}
          />
          <TextField
            label="Twist, dB"
            mono
            inputMode="decimal"
            hint="High tone over low one; 0 for most"
            error={errors?.twistDb?.message}
            {...register('sound.twistDb', AS_NUMBER)}
          />
        </>
      )}
      {keying === 'tone' && (
        <TextField
          label="Keying tone, Hz"
          mono
          inputMode="numeric"
          hint="10000 or more: receivers do not pass it"
          error={errors?.toneHz?.message ?? (sound.sendsOn === 'both' ? undefined : refused)}
          {...register('sound.toneHz', AS_NUMBER)}
        />
      )}
      {(keying === 'line' || keying === 'pin') && (
        <TextField
          label={keying === 'line' ? 'Serial port that keys' : 'Sound chip'}
          mono
          hint={keying === 'line' ? 'As /dev/ttyUSB0' : 'As /dev/hidraw0'}
          error={errors?.keyDevice?.message}
          {...register('sound.keyDevice')}
        />
      )}
      {keying === 'line' && (
        <SelectField
          label="Line"
          hint="Which one the interface listens to"
          error={errors?.keyLine?.message}
          {...register('sound.keyLine')}
        >
          {KEY_LINES.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </SelectField>
      )}
      {keying === 'pin' && (
        <TextField
          label="Pin"
          mono
          inputMode="numeric"
          hint="GPIO 3 on most (common practice, no source)"
          error={errors?.keyPin?.message}
          {...register('sound.keyPin', AS_NUMBER)}
        />
      )}
      {!isHere && (
        <SelectField label="Sample rate" hint="48000 for most cards" {...register('sound.rateHz', AS_NUMBER)}>
          {SOUND_RATES.map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
        </SelectField>
      )}
    </fieldset>
  );
}

function DeviceField({
  form: { register, formState },
  side,
  label,
  names,
}: {
  form: UseFormReturn<LinkSettings>;
  side: 'input' | 'output';
  label: string;
  names: readonly string[];
}) {
  const list = `sound-${side}s`;
  return (
    <div>
      <TextField
        label={label}
        list={list}
        hint={
          names.length === 0
            ? 'Empty: the usual one of this device'
            : `${names.length} found; empty: the usual one`
        }
        error={formState.errors.sound?.[side]?.message}
        {...register(`sound.${side}`, { setValueAs: (name: string | undefined) => name || undefined })}
      />
      <datalist id={list}>
        {names.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </datalist>
    </div>
  );
}

function useDevices(isHere: boolean): Devices {
  const [devices, setDevices] = useState<Devices>({ inputs: [], outputs: [] });
  useEffect(() => {
    const names = (all: readonly { label: string }[]): string[] => all.map(({ label }) => label);
    const asked = isHere
      ? listSoundDevices().then(({ inputs, outputs }) => ({ inputs: names(inputs), outputs: names(outputs) }))
      : command<Devices>('GET', '/links/sound-devices');
    void asked.then(setDevices, () => undefined);
  }, [isHere]);
  return devices;
}

/** What belongs to another keying is not sent: it may hold half-typed text. */
export function soundThatFits({ keyDevice, keyLine, keyPin, toneHz, ...sound }: SoundSetup): SoundSetup {
  switch (sound.keying) {
    case 'tone':
      return { ...sound, ...(toneHz !== undefined && { toneHz }) };
    case 'line':
      return { ...sound, ...(keyDevice && { keyDevice }), keyLine: keyLine ?? 'RTS' };
    case 'pin':
      return { ...sound, ...(keyDevice && { keyDevice }), keyPin: keyPin ?? 3 };
    default:
      return sound;
  }
}
