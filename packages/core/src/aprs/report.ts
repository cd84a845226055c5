/**
 * What an APRS info field says, in SI units and degrees; a fact that was not sent is absent, never null or zero.
 * Source of every kind: APRS Protocol Reference 1.0.1 (2000) with the 1.1 and 1.2 addenda.
 */
export type AprsType =
  | 'position'
  | 'mic-e'
  | 'object'
  | 'item'
  | 'message'
  | 'ack'
  | 'rej'
  | 'bulletin'
  | 'announcement'
  | 'telemetry'
  | 'telemetry-definition'
  | 'status'
  | 'weather'
  | 'query'
  | 'capabilities'
  | 'third-party'
  | 'nmea'
  | 'user-defined'
  | 'unknown';

/** table: `/` primary, `\` alternate, or an overlay 0–9 A–Z; code: `!` to `~`. */
export interface AprsSymbol {
  readonly table: string;
  readonly code: string;
}

export interface Timestamp {
  readonly form: 'dhm-zulu' | 'dhm-local' | 'hms' | 'mdhm';
  readonly text: string;
}

/** power W, height m above average terrain, gain dBi, directivity degrees (0 = all round). */
export interface Phg {
  readonly powerW: number;
  readonly heightM: number;
  readonly gainDb: number;
  readonly directivityDeg: number;
  readonly rangeM: number;
}

export interface Weather {
  windDirectionDeg?: number;
  windSpeedMps?: number;
  windGustMps?: number;
  temperatureC?: number;
  rainLastHourMm?: number;
  rainLast24hMm?: number;
  rainSinceMidnightMm?: number;
  snowLast24hMm?: number;
  humidityPercent?: number;
  pressureHpa?: number;
  luminosityWm2?: number;
}

export interface Message {
  readonly addressee: string;
  readonly text?: string;
  readonly number?: string;
  readonly replyAck?: string;
}

export interface AprsReport {
  type: AprsType;
  latitudeDeg?: number;
  longitudeDeg?: number;
  /** How many digits of each coordinate were left out, 0 to 4; the position is the centre of that box. */
  ambiguityDigits?: number;
  messaging?: boolean;
  symbol?: AprsSymbol;
  timestamp?: Timestamp;
  courseDeg?: number;
  speedMps?: number;
  altitudeM?: number;
  rangeM?: number;
  phg?: Phg;
  weather?: Weather;
  object?: { readonly name: string; readonly live: boolean };
  message?: Message;
  status?: string;
  comment?: string;
  micE?: { readonly message: string; readonly gpsFix: 'current' | 'old' };
  /** Only with `unknown`: why it could not be read. */
  reason?: string;
}
