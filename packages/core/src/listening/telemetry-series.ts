import type { Telemetry, TelemetryDefinition } from '../aprs/report.js';

const ANALOG = 5;
const BITS = 8;

/** What a station has told of its channels: the last of each kind counts. */
export interface TelemetryDefinitions {
  /** Thirteen at most: five channels, then eight bits (APRS 1.0.1, "On-air definition of telemetry parameters"). */
  readonly names: readonly string[];
  readonly units: readonly string[];
  readonly coefficients: readonly { readonly a: number; readonly b: number; readonly c: number }[];
  /** Which way each bit has to stand to count as on. */
  readonly active: string;
  readonly title: string;
}

export const NO_DEFINITIONS: TelemetryDefinitions = {
  names: [],
  units: [],
  coefficients: [],
  active: '11111111',
  title: '',
};

export function define(known: TelemetryDefinitions, told: TelemetryDefinition): TelemetryDefinitions {
  switch (told.kind) {
    case 'PARM':
      return { ...known, names: told.names };
    case 'UNIT':
      return { ...known, units: told.names };
    case 'EQNS':
      return { ...known, coefficients: told.coefficients };
    case 'BITS':
      return { ...known, active: told.active, title: told.title };
  }
}

/** One value with its name and unit. */
export interface ChannelValue {
  /** 1 to 5. */
  readonly channel: number;
  readonly name: string;
  readonly unit: string;
  readonly value: number;
}

/** a·v² + b·v + c of each analog channel; without definitions the count as it was sent. */
export function channelValues(
  { analog, channels }: Telemetry,
  { names, units, coefficients }: TelemetryDefinitions,
): ChannelValue[] {
  return analog.slice(0, ANALOG).map((count, i) => {
    const channel = channels?.[i] ?? i + 1;
    const { a, b, c } = coefficients[channel - 1] ?? { a: 0, b: 1, c: 0 };
    return {
      channel,
      name: names[channel - 1] || `channel ${channel}`,
      unit: units[channel - 1] ?? '',
      value: a * count * count + b * count + c,
    };
  });
}

/** Each bit that has a name, and whether it is on: it stands as BITS says (APRS 1.0.1, "Bit sense"). */
export function bitValues(
  { digital }: Telemetry,
  { names, units, active }: TelemetryDefinitions,
): { name: string; word: string; isOn: boolean }[] {
  if (digital === undefined) return [];
  return [...digital.slice(0, BITS)].flatMap((bit, i) => {
    const name = names[ANALOG + i];
    return name ? [{ name, word: units[ANALOG + i] ?? '', isOn: bit === (active[i] ?? '1') }] : [];
  });
}
