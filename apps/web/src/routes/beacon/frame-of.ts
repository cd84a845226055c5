import { useMemo } from 'react';
import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import {
  BEACON_FORMATS,
  composeBeacon,
  formatOf,
  formsOf,
  type BeaconFormat,
  type ComposedBeacon,
} from '@mistpeak/core/beacon/composer';
import { parseVoiceFrequency } from '@mistpeak/core/beacon/voice-frequency';
import { parsePlace } from '@mistpeak/core/geo/place';
import type { BeaconSettings } from '@mistpeak/contract/beacon';

export interface Outgoing {
  readonly frame: Ax25Frame;
  readonly raw: Uint8Array;
  readonly format: BeaconFormat;
}

/** Each form by itself: its octets, or what it cannot carry. */
export type Forms = Readonly<Record<BeaconFormat, number | string>>;

/** The exact frame that these fields make, by the same core that the server sends with. */
export function useFrameOf(settings: BeaconSettings): Outgoing | Malformed;
export function useFrameOf(settings: BeaconSettings | null): Outgoing | Malformed | undefined;
export function useFrameOf(settings: BeaconSettings | null): Outgoing | Malformed | undefined {
  const key = JSON.stringify(settings);
  return useMemo(() => (key === 'null' ? undefined : frameOf(JSON.parse(key) as BeaconSettings)), [key]);
}

export function useFormsOf(settings: BeaconSettings): Forms | undefined {
  const key = JSON.stringify(settings);
  return useMemo(() => {
    const beacon = composed(JSON.parse(key) as BeaconSettings);
    if (isMalformed(beacon)) return undefined;
    const forms = formsOf(beacon);
    const sizes = BEACON_FORMATS.map((format) => {
      const made = forms[format];
      return [format, isMalformed(made) ? made.malformed : encodeFrame(made).length] as const;
    });
    return Object.fromEntries(sizes) as Forms;
  }, [key]);
}

function frameOf(settings: BeaconSettings): Outgoing | Malformed {
  const beacon = composed(settings);
  if (isMalformed(beacon)) return beacon;
  const frame = composeBeacon(beacon, settings.format);
  return isMalformed(frame) ? frame : { frame, raw: encodeFrame(frame), format: formatOf(frame) };
}

function composed(settings: BeaconSettings): ComposedBeacon | Malformed {
  const position = parsePlace(settings.place);
  if (isMalformed(position)) return position;
  const frequency = parseVoiceFrequency(settings.frequency);
  if (isMalformed(frequency)) return frequency;
  const { source, symbolTable, symbolCode, comment, path, messaging, ambiguityDigits } = settings;
  const { altitudeM, phgPowerW, phgHeightM, phgGainDb } = settings;
  const isPhg =
    typeof phgPowerW === 'number' && typeof phgHeightM === 'number' && typeof phgGainDb === 'number';
  return {
    ...{ source, position, comment, path, messaging, ambiguityDigits },
    symbol: { table: symbolTable, code: symbolCode },
    ...(frequency ? { frequency } : {}),
    ...(typeof altitudeM === 'number' ? { altitudeM } : {}),
    ...(isPhg
      ? { phg: { powerW: phgPowerW, heightM: phgHeightM, gainDb: phgGainDb, directivityDeg: 0 } }
      : {}),
  };
}
