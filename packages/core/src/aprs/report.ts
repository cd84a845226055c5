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

/** text: as it was sent, with its suffix. Only those parts are there that the form has; a day is of the month. */
export interface Timestamp {
  readonly form: 'dhm-zulu' | 'dhm-local' | 'hms' | 'mdhm';
  readonly text: string;
  readonly month?: number;
  readonly day?: number;
  readonly hour?: number;
  readonly minute?: number;
  readonly second?: number;
}

/** power W, height m above average terrain, gain dBi, directivity degrees (0 = all round, 360 = north), rangeM by the published formula. */
export interface Phg {
  readonly powerW: number;
  readonly heightM: number;
  readonly gainDb: number;
  readonly directivityDeg: number;
  readonly rangeM: number;
  /** 1.1 addendum, "Probes": how often an hour it is sent. */
  readonly beaconsPerHour?: number;
}

/** A direction finder without a bearing: strength 0–9 S units; the rest as in Phg. */
export interface Dfs {
  readonly strengthS: number;
  readonly heightM: number;
  readonly gainDb: number;
  readonly directivityDeg: number;
}

/** A bearing towards a signal. hits: share of samples that agree, 0–1; absent where it was taken by hand. */
export interface Bearing {
  readonly bearingDeg: number;
  readonly hits?: number;
  readonly rangeM?: number;
  /** Full width of the doubt about the bearing, degrees; absent where the report says that it is useless. */
  readonly widthDeg?: number;
}

/** An object that covers ground: from its position (the upper left corner, or a line's end) over these offsets. */
export interface Area {
  readonly shape: 'circle' | 'line-right' | 'line-left' | 'ellipse' | 'triangle' | 'box';
  readonly filled: boolean;
  readonly latitudeOffsetDeg: number;
  readonly longitudeOffsetDeg: number;
  readonly colour: 'black' | 'blue' | 'green' | 'cyan' | 'red' | 'violet' | 'yellow' | 'grey';
  readonly dim: boolean;
  /** Half width of the corridor along a line, metres. */
  readonly corridorM?: number;
}

/** A tropical storm's report: winds m/s, radii of the zones in metres. */
export interface Storm {
  readonly kind: 'tropical-depression' | 'tropical-storm' | 'hurricane';
  readonly sustainedWindMps: number;
  readonly gustMps: number;
  readonly pressureHpa: number;
  readonly hurricaneRadiusM: number;
  readonly stormRadiusM: number;
  readonly galeRadiusM?: number;
}

/** The voice frequency that a station listens on, or that an object is about. */
export interface Frequency {
  readonly frequencyMHz?: number;
  /** Where the station receives on another one. */
  readonly receiveMHz?: number;
  /** The standard tone, Hz; 1750 is a burst. */
  readonly toneHz?: number;
  /** Digital code squelch, three octal digits. */
  readonly dcs?: string;
  /** The tone is asked for in both directions (`C`), not only on transmitting (`T`). */
  readonly toneSquelch?: boolean;
  readonly toneOff?: boolean;
  readonly narrow?: boolean;
  /** Transmit minus receive, kHz. */
  readonly offsetKHz?: number;
  readonly rangeKm?: number;
}

/** analog: raw counts, as many channels as were sent; digital: eight bits as `01101001`, B1 first. */
export interface Telemetry {
  readonly sequence: number | 'MIC';
  readonly analog: readonly number[];
  /** Which channels these are, from 1; left out where they are the first ones. */
  readonly channels?: readonly number[];
  readonly digital?: string;
}

/** What a telemetry station tells of its own channels; the addressee of the message is the station meant. */
export type TelemetryDefinition =
  | { readonly kind: 'PARM' | 'UNIT'; readonly names: readonly string[] }
  | {
      readonly kind: 'EQNS';
      readonly coefficients: readonly { readonly a: number; readonly b: number; readonly c: number }[];
    }
  | { readonly kind: 'BITS'; readonly active: string; readonly title: string };

/** fix: how fresh; source: which sentence; origin: who compressed (1.0.1, "The compression type byte"). */
export interface Compression {
  readonly gpsFix: 'current' | 'old';
  readonly source: 'other' | 'GLL' | 'GGA' | 'RMC';
  readonly origin: number;
}

/** prefix and suffix stand in the status text and tell the sender's kind; they are kept as data. */
export interface MicE {
  readonly message: string;
  readonly gpsFix: 'current' | 'old';
  readonly prefix?: string;
  readonly suffix?: string;
}

/** A question to all stations, perhaps only to those within a circle. */
export interface Query {
  readonly name: string;
  readonly latitudeDeg?: number;
  readonly longitudeDeg?: number;
  readonly radiusM?: number;
}

/** What a station answers: who it hears direct, how often it heard somebody by the hour, by which way the query came. */
export type QueryAnswer =
  | { readonly to: 'APRSD'; readonly stations: readonly string[] }
  | { readonly to: 'APRSH'; readonly station: string; readonly counts: readonly number[] }
  | { readonly to: 'APRST'; readonly path: string };

/** A frame inside a frame: path as monitor text has it. */
export interface ThirdParty {
  readonly source: string;
  readonly destination: string;
  readonly path: readonly string[];
  readonly report: AprsReport;
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
  /** Water level against flood stage, metres. */
  waterLevelM?: number;
  /** Radiation, nSv/h. */
  radiationNsvPerHour?: number;
  batteryV?: number;
  /** A rain gauge that only counts. */
  rainCounter?: number;
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
  dfs?: Dfs;
  bearing?: Bearing;
  area?: Area;
  storm?: Storm;
  frequency?: Frequency;
  weather?: Weather;
  /** A weather station's own line: `#`, `*`, `$ULTW` or `!!`, and what follows it as it was sent. */
  rawWeather?: { readonly form: string; readonly fields: string };
  telemetry?: Telemetry;
  telemetryDefinition?: TelemetryDefinition;
  object?: { readonly name: string; readonly live: boolean };
  message?: Message;
  /** id: the digit or letter after BLN; group: who it is for. */
  bulletin?: { readonly id: string; readonly group?: string };
  query?: Query;
  queryAnswer?: QueryAnswer;
  /** A station's abilities, `IGATE` or `MSG_CNT=30`; value is absent where none was given. */
  capabilities?: readonly { readonly name: string; readonly value?: string }[];
  status?: string;
  locator?: string;
  /** From a status report: where a beam points, and its effective radiated power. */
  beam?: { readonly headingDeg: number; readonly erpW: number };
  /** One to three characters on a signpost. */
  signpost?: string;
  compression?: Compression;
  /** Map datum and finer digits were sent (`!W52!`); the position has them already. */
  dao?: { readonly datum: string; readonly form: 'digits' | 'base-91' | 'none' };
  thirdParty?: ThirdParty;
  nmea?: { readonly sentence: string; readonly checked: boolean };
  userDefined?: { readonly userId: string; readonly packetType: string; readonly data: string };
  comment?: string;
  micE?: MicE;
  /** Only with `unknown`: why it could not be read. */
  reason?: string;
}
