import type { Complaint, TestId } from './tests.js';

/** How a test comes out, 0–1 each; what is left is shared by the outcomes that are not named. */
type Outcomes = Readonly<Record<string, number>>;
/** Of each test that comes out otherwise than when nothing is wrong. */
export type Outlook = Readonly<Partial<Record<TestId, Outcomes>>>;

export interface Fault {
  readonly name: string;
  /** What told it, for whoever sought. */
  readonly told: string;
  readonly mend: string;
  /** How often among all that goes wrong, as weights. */
  readonly weight: number;
  readonly complaints: Readonly<Partial<Record<Complaint, number>>>;
  readonly tests: Outlook;
}

const NOTHING_BACK = {
  echo: { 'it does not come back': 0.97 },
  call: { 'no answer': 0.97 },
  another: { 'no answer': 0.97 },
};
const DEAF = {
  decode: { none: 0.97 },
  call: { 'no answer': 0.97 },
  another: { 'no answer': 0.97 },
  echo: { 'it does not come back': 0.95 },
};

/** In the order in which a chain is built and used. Every figure: common practice, no source. */
export const FAULTS = {
  'kiss-off': {
    name: 'KISS is off: the radio gives its other output',
    told: 'sentences or a prompt at the port, and the sheet says KISS',
    mend: 'Switch the radio’s TNC to KISS.',
    weight: 3,
    complaints: { 'nothing is decoded': 5, 'the app does not find the TNC': 4 },
    tests: {
      port: { 'sentences or a prompt': 0.9, silence: 0.08 },
      sheet: { 'KISS differs': 0.9 },
      ...DEAF,
      lamp: { dark: 0.95 },
    },
  },
  'wrong-port': {
    name: 'The app asks at another port',
    told: 'the port cannot be opened, or is silent, while the radio hears',
    mend: 'Enter the port that the modem program shows.',
    weight: 3,
    complaints: { 'the app does not find the TNC': 6, 'nothing is decoded': 2 },
    tests: {
      port: { 'it cannot be opened': 0.7, silence: 0.25 },
      sheet: { 'the port differs': 0.9 },
      ...DEAF,
      lamp: { dark: 0.97 },
    },
  },
  held: {
    name: 'Another app holds the TNC in the background',
    told: 'another program has it open',
    mend: 'Close the other app, also where it only sleeps.',
    weight: 3,
    complaints: { 'the app does not find the TNC': 5, 'nothing is decoded': 4 },
    tests: {
      apps: { 'one holds it': 0.95 },
      port: { silence: 0.55, 'it cannot be opened': 0.4 },
      ...DEAF,
      lamp: { dark: 0.9 },
    },
  },
  'wrong-band': {
    name: 'The radio listens on its other band',
    told: 'no signal on the meter, and the sheet names the other band',
    mend: 'Choose the band that the TNC listens to, and set the channel there.',
    weight: 4,
    complaints: { 'nothing is decoded': 5, 'it is never repeated': 2, 'the gateway does not answer': 2 },
    tests: {
      listen: { 'only noise': 0.9 },
      meter: { 'no signal at all': 0.93 },
      sheet: { 'the band differs': 0.9 },
      port: { silence: 0.9 },
      second: { nothing: 0.9 },
      ...DEAF,
    },
  },
  deaf: {
    name: 'Nothing reaches the modem: data sounds muted, or the volume at zero',
    told: 'the meter of the radio moves, no sound comes, and every setting of the channel is right',
    mend: 'Turn the volume up; let data sounds be heard.',
    weight: 3,
    complaints: { 'nothing is decoded': 7, 'the session starts and dies': 1 },
    tests: {
      listen: { 'nothing at all': 0.75, 'packets are heard': 0.22 },
      meter: { 'no signal at all': 0.8, 'too weak': 0.15 },
      port: { silence: 0.93 },
      decode: { none: 0.98 },
      call: { 'no answer': 0.95 },
      another: { 'no answer': 0.95 },
      echo: { 'it does not come back': 0.9 },
    },
  },
  squelch: {
    name: 'The squelch is too tight: it loses the start of each packet',
    told: 'the start of each packet is missing at the receive level',
    mend: 'Lower the squelch a step, or open it.',
    weight: 4,
    complaints: { 'nothing is decoded': 3, 'the session starts and dies': 5 },
    tests: {
      meter: { 'cut at its start': 0.93 },
      sheet: { 'the squelch differs': 0.88 },
      decode: { 'a few': 0.7, none: 0.25 },
      call: { 'no answer': 0.5, 'it answers and closes': 0.3 },
      another: { 'no answer': 0.6 },
    },
  },
  plug: {
    name: 'A plug is not seated: the sound is weak',
    told: 'seated anew, the level came back',
    mend: 'Push every plug home; look at the level again.',
    weight: 3,
    complaints: { 'nothing is decoded': 4, 'it keys, and nobody decodes it': 3 },
    tests: {
      plug: { 'the level comes back': 0.93 },
      meter: { 'too weak': 0.9 },
      decode: { none: 0.6, 'a few': 0.35 },
      second: { quiet: 0.75 },
    },
  },
  'vox-slow': {
    name: 'VOX keys late',
    told: 'the lamp lights late and the start of the packet is missing on the second receiver',
    mend: 'More drive or a more sensitive VOX, and a longer TXDELAY.',
    weight: 3,
    complaints: {
      'sent, and the radio does not key': 3,
      'it keys, and nobody decodes it': 5,
      'it is never repeated': 2,
    },
    tests: {
      lamp: { 'lit late': 0.85, dark: 0.12 },
      second: { 'its start is missing': 0.9 },
      sheet: { 'the keying differs': 0.6 },
      ...NOTHING_BACK,
    },
  },
  'vox-hang': {
    name: 'VOX hangs: it stays keyed after the packet',
    told: 'the lamp stays lit, and the answer is talked over',
    mend: 'A shorter VOX delay; squelch tail and other sounds off.',
    weight: 2,
    complaints: { 'the session starts and dies': 5, 'the gateway does not answer': 3 },
    tests: {
      lamp: { 'stays lit': 0.93 },
      sheet: { 'the keying differs': 0.6 },
      call: { 'no answer': 0.6, 'it answers and closes': 0.35 },
      another: { 'no answer': 0.7 },
    },
  },
  'over-deviated': {
    name: 'The transmit level is too high',
    told: 'hoarse and loud on a second receiver',
    mend: 'Turn the drive down until the second receiver decodes best.',
    weight: 4,
    complaints: { 'it keys, and nobody decodes it': 6, 'it is never repeated': 4 },
    tests: {
      second: { 'hoarse and loud': 0.93 },
      echo: { 'it does not come back': 0.9 },
      call: { 'no answer': 0.9 },
      another: { 'no answer': 0.9 },
    },
  },
  'keying-tone': {
    name: 'The keying tone lies in the voice band',
    told: 'a steady tone under the packet on a second receiver',
    mend: 'Move the tone out of the band or filter it; both channels the right way round.',
    weight: 2,
    complaints: { 'it keys, and nobody decodes it': 7, 'it is never repeated': 2 },
    tests: {
      second: { 'a steady tone under it': 0.93 },
      sheet: { 'the keying differs': 0.6 },
      ...NOTHING_BACK,
    },
  },
  path: {
    name: 'No digipeater serves the path',
    told: 'clean on a second receiver and never repeated; the sheet has another path',
    mend: 'Use the path of the sheet.',
    weight: 3,
    complaints: { 'it is never repeated': 8 },
    tests: { echo: { 'it does not come back': 0.97 }, sheet: { 'the path differs': 0.92 } },
  },
  'gateway-silent': {
    name: 'The gateway is silent; another answers',
    told: 'no answer there, an answer at another',
    mend: 'Go to the next one of the list.',
    weight: 4,
    complaints: { 'the gateway does not answer': 9 },
    tests: { call: { 'no answer': 0.98 }, another: { 'it answers': 0.9 } },
  },
  'gateway-service': {
    name: 'The gateway is up and its service is down',
    told: 'it answers and closes at once; another serves',
    mend: 'Go to the next one, or wait.',
    weight: 2,
    complaints: { 'the session starts and dies': 6, 'the gateway does not answer': 2 },
    tests: { call: { 'it answers and closes': 0.95 }, another: { 'it answers': 0.93 } },
  },
  mistyped: {
    name: 'The call is mistyped',
    told: 'no answer, and the sheet has another call',
    mend: 'Compare with known stations; write it again.',
    weight: 3,
    complaints: { 'the gateway does not answer': 8 },
    tests: {
      spelling: { 'another letter': 0.98 },
      call: { 'no answer': 0.98 },
      sheet: { 'a call differs': 0.9 },
      another: { 'it answers': 0.88 },
    },
  },
  corrected: {
    name: 'The phone has corrected the call',
    told: 'the call differs from the sheet, and the same happens at the next one',
    mend: 'Switch the keyboard’s correction off for the field.',
    weight: 2,
    complaints: { 'the gateway does not answer': 8 },
    tests: {
      spelling: { 'changed by the keyboard': 0.98 },
      call: { 'no answer': 0.98 },
      sheet: { 'a call differs': 0.9 },
      another: { 'no answer': 0.85 },
    },
  },
  ssid: {
    name: 'Two devices use the same call-SSID',
    told: 'my own call-SSID is heard from another place',
    mend: 'Give each device an SSID of its own.',
    weight: 2,
    complaints: { 'my track jumps between two places': 9 },
    tests: { own: { 'from another place': 0.95 } },
  },
  'internet-only': {
    name: 'Only the copy by the internet arrived',
    told: 'without the internet it works no more',
    mend: 'Choose the radio as the way of the app; airplane mode proves it.',
    weight: 2,
    complaints: { 'it is on the map, and nobody heard it': 9 },
    tests: {
      offline: { 'it works no more': 0.96 },
      lamp: { dark: 0.6 },
      echo: { 'it does not come back': 0.95 },
    },
  },
  battery: {
    name: 'The battery sags while transmitting',
    told: 'the voltage at the radio falls while it is keyed',
    mend: 'Charge it; thicker or shorter wires; less power.',
    weight: 2,
    complaints: {
      'the session starts and dies': 4,
      'it is never repeated': 3,
      'it keys, and nobody decodes it': 2,
    },
    tests: {
      volts: { 'it sags': 0.95 },
      lamp: { 'it dims, or the battery’s gauge falls': 0.5, 'lit for the packet': 0.47 },
      second: { quiet: 0.4, 'hoarse and loud': 0.2, clean: 0.35 },
      echo: { 'it does not come back': 0.8 },
      call: { 'no answer': 0.6 },
      another: { 'no answer': 0.6 },
    },
  },
  'service-closed': {
    name: 'The service behind the gate is closed',
    told: 'the gate acknowledges, and the service says nothing',
    mend: 'Use another service; note when it last worked.',
    weight: 2,
    complaints: { 'the service does not answer': 9 },
    tests: { service: { 'acknowledged by the gate, no answer': 0.95 } },
  },
  'radio-control': {
    name: 'Radio control has set the other band',
    told: 'read back, the other band has the frequency',
    mend: 'Name the band in the words that set the frequency.',
    weight: 2,
    complaints: { 'the gateway does not answer': 6, 'nothing is decoded': 2 },
    tests: {
      readback: { 'the other band was set': 0.95 },
      listen: { 'only noise': 0.6 },
      meter: { 'no signal at all': 0.6 },
      sheet: { 'the band differs': 0.6 },
      call: { 'no answer': 0.97 },
      another: { 'no answer': 0.95 },
    },
  },
  clock: {
    name: 'The computer’s clock is wrong',
    told: 'it differs from a receiver’s or a phone’s',
    mend: 'Set it, and tell the record by how much it was wrong.',
    weight: 2,
    complaints: { 'times make no sense': 9 },
    tests: { clock: { wrong: 0.97 } },
  },
} as const satisfies Record<string, Fault>;

export type FaultId = keyof typeof FAULTS;
export const FAULT_IDS = Object.keys(FAULTS) as FaultId[];
