/** What can be tried. minutes and packets: what it costs, on the bench and on the air (common practice, no source). */
export interface Test {
  readonly what: string;
  readonly minutes: number;
  readonly packets: number;
  /** How it can come out; the first is how it is when nothing is wrong. */
  readonly outcomes: readonly string[];
}

export const TESTS = {
  port: {
    what: 'Listen to the port for a minute',
    minutes: 1,
    packets: 0,
    outcomes: ['KISS frames', 'sentences or a prompt', 'silence', 'it cannot be opened'],
  },
  listen: {
    what: 'Open the squelch and listen to the radio itself',
    minutes: 1,
    packets: 0,
    outcomes: ['packets are heard', 'only noise', 'nothing at all'],
  },
  meter: {
    what: 'Look at the meter and the receive level while somebody transmits',
    minutes: 1,
    packets: 0,
    outcomes: ['in the window', 'too weak', 'cut at its start', 'no signal at all'],
  },
  decode: {
    what: 'Count what is decoded in three minutes',
    minutes: 3,
    packets: 0,
    outcomes: ['as many as are heard', 'a few', 'none'],
  },
  lamp: {
    what: 'Send one beacon and look at the transmit lamp and the display',
    minutes: 1,
    packets: 1,
    outcomes: [
      'lit for the packet',
      'lit late',
      'stays lit',
      'dark',
      'it dims, or the battery’s gauge falls',
    ],
  },
  second: {
    what: 'Listen to one packet of mine on a second receiver',
    minutes: 2,
    packets: 1,
    outcomes: [
      'clean',
      'hoarse and loud',
      'quiet',
      'its start is missing',
      'a steady tone under it',
      'nothing',
    ],
  },
  echo: {
    what: 'Send one beacon and wait for a digipeater',
    minutes: 2,
    packets: 1,
    outcomes: ['it comes back', 'it does not come back'],
  },
  call: {
    what: 'Call the gateway',
    minutes: 3,
    packets: 6,
    outcomes: ['it answers and serves', 'it answers and closes', 'no answer'],
  },
  another: {
    what: 'Call another gateway',
    minutes: 3,
    packets: 6,
    outcomes: ['it answers', 'no answer'],
  },
  sheet: {
    what: 'Compare every setting with the sheet',
    minutes: 4,
    packets: 0,
    outcomes: [
      'all as on the sheet',
      'KISS differs',
      'the band differs',
      'the squelch differs',
      'the port differs',
      'the path differs',
      'a call differs',
      'the keying differs',
    ],
  },
  apps: {
    what: 'Look for other programs that hold the TNC',
    minutes: 1,
    packets: 0,
    outcomes: ['none', 'one holds it'],
  },
  offline: {
    what: 'Switch the internet off and send again',
    minutes: 2,
    packets: 1,
    outcomes: ['it works as before', 'it works no more'],
  },
  volts: {
    what: 'Measure the voltage at the radio while it transmits',
    minutes: 1,
    packets: 1,
    outcomes: ['it holds', 'it sags'],
  },
  clock: {
    what: 'Compare the clock with a receiver or a phone',
    minutes: 1,
    packets: 0,
    outcomes: ['right', 'wrong'],
  },
  own: {
    what: 'Look for my own call-SSID among what is heard',
    minutes: 1,
    packets: 0,
    outcomes: ['only what I sent', 'from another place'],
  },
  plug: {
    what: 'Seat every plug anew and look at the level again',
    minutes: 1,
    packets: 0,
    outcomes: ['no change', 'the level comes back'],
  },
  service: {
    what: 'Ask the service for its help text',
    minutes: 2,
    packets: 1,
    outcomes: ['it answers', 'acknowledged by the gate, no answer'],
  },
  spelling: {
    what: 'Read the call back from the app, letter by letter',
    minutes: 1,
    packets: 0,
    outcomes: ['as I meant it', 'another letter', 'changed by the keyboard'],
  },
  readback: {
    what: 'Read the frequency back from the radio’s control port',
    minutes: 1,
    packets: 0,
    outcomes: ['as it was set', 'the other band was set'],
  },
} as const satisfies Record<string, Test>;

export type TestId = keyof typeof TESTS;
export const TEST_IDS = Object.keys(TESTS) as TestId[];

/** What the operator says first. */
export const COMPLAINTS = [
  'nothing is decoded',
  'the app does not find the TNC',
  'sent, and the radio does not key',
  'it keys, and nobody decodes it',
  'it is never repeated',
  'the gateway does not answer',
  'the session starts and dies',
  'it is on the map, and nobody heard it',
  'my track jumps between two places',
  'the service does not answer',
  'times make no sense',
] as const;
export type Complaint = (typeof COMPLAINTS)[number];
