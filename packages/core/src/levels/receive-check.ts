import { median, QUIET_DBFS, type Heard } from './heard.js';
import type { HeardPacket } from './sound-watch.js';

/**
 * The good window of a packet's RMS (a full-scale sine is 0 dBFS). Above it the noise of an open squelch, which is louder and
 * has crests, is clipped; below it the noise and hum of cheap sound inputs count (common practice, no source).
 */
export const WINDOW = { lowest: -30, highest: -8, aim: -16 } as const;

/** Bounds of the verdicts; each is tested from both sides. */
export const BOUNDS = {
  /** Share of the samples of a packet that stand at full scale. */
  clippedShare: 0.005,
  /** De-emphasis is 5.26 dB between the tones (6 dB an octave from 1200 to 2200 Hz). */
  emphasisDb: 5.2,
  emphasisWithinDb: 1.5,
  /** Beyond, emphasis alone does not explain it. */
  filterDb: 7,
  /** Receivers are told apart from senders by so many of them, so near each other. */
  senders: 3,
  apartDb: 3,
  /** Below this Eb/N0 the measure of one packet is not clear enough. */
  clearEbN0Db: 10,
  lateMs: 60,
  usualTxDelayMs: 300,
  humBelowPacketsDb: 20,
  humDbfs: -40,
  offset: 0.03,
  toneBelowPacketsDb: 30,
  carriers: 5,
  unreadShare: 0.25,
  bells: 2,
  voiceShare: 0.1,
  narrowDb: -12,
  quietShare: 0.98,
  followsDb: 1.5,
} as const;

/** One thing that was found. turn: what to do about it; number: what was measured. */
export interface Finding {
  readonly kind:
    | 'nothing'
    | 'noise only'
    | 'nothing decoded'
    | 'clipping'
    | 'under'
    | 'over'
    | 'tones differ'
    | 'tones differ by sender'
    | 'late'
    | 'hum'
    | 'offset'
    | 'tone in the band'
    | 'not decoded'
    | 'other sounds'
    | 'narrow'
    | 'knob without effect';
  readonly words: string;
  readonly number: string;
  readonly turn: string;
}

/** findings: the most serious first; none: the level is good. isInWindow: what the rung of the ladder asks. */
export interface ReceiveVerdict {
  readonly sentence: string;
  readonly number: string;
  readonly turn: string;
  readonly findings: readonly Finding[];
  readonly isInWindow: boolean;
  /** Of the packets, each transmitter counted once. */
  readonly levelDbfs?: number;
  readonly twistDb?: number;
}

const db = (value: number): string => `${Math.abs(value).toFixed(0)} dB`;
const dbfs = (value: number): string => `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(0)} dBFS`;
const share = (value: number): string => `${(100 * value).toFixed(value < 0.1 ? 1 : 0)} %`;
const some = (count: number, one: string, more = `${one}s`): string => `${count} ${count === 1 ? one : more}`;

/** What was heard, judged. */
export function judgeReceive(heard: Heard): ReceiveVerdict {
  const level = medianOfTransmitters(heard.packets, ({ levelDbfs }) => levelDbfs);
  const twist = twistOf(heard.packets);
  const findings = [
    nothing(heard),
    clipping(heard),
    window(heard, level),
    tonesDiffer(twist),
    late(heard.packets),
    hum(heard, level),
    offset(heard),
    steadyTone(heard, level),
    notDecoded(heard),
    otherSounds(heard),
    narrow(heard),
  ].filter((one) => one !== undefined);
  const isInWindow =
    level !== undefined &&
    !findings.some(({ kind }) => kind === 'clipping' || kind === 'under' || kind === 'over');
  const [first] = findings;
  return {
    ...(first
      ? { sentence: first.words, number: first.number, turn: first.turn }
      : {
          sentence: 'The level is in the window.',
          number: `${dbfs(level ?? NaN)}, ${some(heard.packets.length, 'packet')} of ${some(transmitters(heard.packets).size, 'station')}`,
          turn: 'Leave it as it is, and mark where the knob stands.',
        }),
    findings,
    isInWindow,
    ...(level !== undefined && { levelDbfs: level }),
    ...(twist.medianDb !== undefined && { twistDb: twist.medianDb }),
  };
}

function nothing({ packets, carriers, quietShare, noiseDbfs, seconds }: Heard): Finding | undefined {
  if (packets.length > 0) return undefined;
  if (quietShare >= BOUNDS.quietShare)
    return {
      kind: 'nothing',
      words: 'Nothing at all comes in.',
      number: `below ${dbfs(QUIET_DBFS)} for ${seconds.toFixed(0)} s`,
      turn: 'Open the squelch: hiss must be heard here. If it is not: the cable (fully in, the right socket), the input that is chosen, the volume, and whether the radio is on.',
    };
  if (carriers > 0)
    return {
      kind: 'nothing decoded',
      words: 'Packets are on the channel, and none was decoded.',
      number: `tones of ${some(carriers, 'packet')} in ${seconds.toFixed(0)} s`,
      turn: 'Set the level first; then the noise reduction and narrow filters of the radio off, the squelch open.',
    };
  return {
    kind: 'noise only',
    words: 'There is noise, but no packet.',
    number: `${noiseDbfs === undefined ? 'sound' : dbfs(noiseDbfs)} for ${seconds.toFixed(0)} s, no packet tones`,
    turn: 'Check frequency and band, and that the side of the radio that feeds the cable is the one on the channel. The channel may be idle: listen longer.',
  };
}

function clipping({ packets, clippedShare }: Heard): Finding | undefined {
  const clipped = medianOfTransmitters(packets, (one) => one.clippedShare) ?? clippedShare;
  if (clipped <= BOUNDS.clippedShare) return undefined;
  return {
    kind: 'clipping',
    words: packets.length > 0 ? 'The packets are clipped.' : 'The sound is clipped.',
    number: `${share(clipped)} of the samples at full scale`,
    turn: 'Turn the volume of the radio down until nothing is clipped; if it is already low, the gain of the input, or a microphone input where a line input is needed.',
  };
}

function window({ packets, noiseDbfs }: Heard, level: number | undefined): Finding | undefined {
  if (level === undefined) {
    // Open noise is louder than packets: alone it says only that far too little or too much comes in.
    if (noiseDbfs !== undefined && noiseDbfs < WINDOW.lowest)
      return under(noiseDbfs, `noise at ${dbfs(noiseDbfs)}`);
    return undefined;
  }
  const number = `${dbfs(level)}, ${some(packets.length, 'packet')} of ${some(transmitters(packets).size, 'station')}`;
  if (level < WINDOW.lowest) return under(level, number);
  if (level > WINDOW.highest)
    return {
      kind: 'over',
      words: `${db(level - WINDOW.highest)} over the window.`,
      number,
      turn: `Turn the volume down by ${db(level - WINDOW.aim)}.`,
    };
  return undefined;
}

const under = (level: number, number: string): Finding => ({
  kind: 'under',
  words: `${db(WINDOW.lowest - level)} under the window.`,
  number,
  turn: `Turn the volume up by ${db(WINDOW.aim - level)}, or the gain of the input.`,
});

interface Twist {
  readonly senders: number;
  readonly medianDb?: number;
  readonly apartDb: number;
}

/** Space over mark, each transmitter once; only packets clear enough to measure. apartDb: without the oddest fifth. */
function twistOf(packets: readonly HeardPacket[]): Twist {
  const clear = packets.filter(({ ebN0Db }) => ebN0Db !== undefined && ebN0Db >= BOUNDS.clearEbN0Db);
  const each = [...transmitters(clear).values()].map(
    (own) => median(own.flatMap(({ twistDb }) => twistDb ?? [])) ?? 0,
  );
  const middle = median(each);
  if (middle === undefined) return { senders: 0, apartDb: 0 };
  const kept = each
    .sort((a, b) => Math.abs(a - middle) - Math.abs(b - middle))
    .slice(0, each.length - Math.floor(each.length / 5));
  return { senders: each.length, medianDb: middle, apartDb: Math.max(...kept) - Math.min(...kept) };
}

function tonesDiffer({ senders, medianDb, apartDb }: Twist): Finding | undefined {
  const least = BOUNDS.emphasisDb - BOUNDS.emphasisWithinDb;
  if (medianDb === undefined) return undefined;
  const size = Math.abs(medianDb);
  if (senders < BOUNDS.senders || apartDb > BOUNDS.apartDb) {
    if (size < least && apartDb <= BOUNDS.apartDb) return undefined;
    const why =
      senders < BOUNDS.senders
        ? `only ${some(senders, 'station was', 'stations were')} heard clearly enough`
        : `the stations lie ${db(apartDb)} apart`;
    return {
      kind: 'tones differ by sender',
      words: `The tones differ, but that says nothing of this receiver: ${why}.`,
      number: `high tone ${signed(medianDb)} against the low one, ${some(senders, 'station')}`,
      turn:
        senders < BOUNDS.senders
          ? 'Listen until three stations are heard.'
          : 'Nothing here: the stations differ among themselves.',
    };
  }
  if (size < least) return undefined;
  const isWeaker = medianDb < 0;
  const isMore = size > BOUNDS.filterDb;
  const which = isWeaker ? 'weaker' : 'stronger';
  return {
    kind: 'tones differ',
    words: `The high tone is ${db(medianDb)} ${which} than the low one, whoever sends${isMore ? ': more than emphasis explains' : ''}.`,
    number: `${signed(medianDb)}, median of ${some(senders, 'station')}`,
    turn: isMore
      ? `Emphasis is ${db(BOUNDS.emphasisDb)}: a filter, a tone control or the cable ${isWeaker ? 'takes highs away' : 'takes lows away'} besides. Tone controls flat, noise reduction off, another cable.`
      : isWeaker
        ? 'You are on de-emphasised audio, and the senders are flat. Use the flat (data) output of the radio if it has one, or the default decoder, which evens it out.'
        : 'You are on flat audio, and the senders are pre-emphasised. Use the speaker output, which is de-emphasised, or the default decoder, which evens it out.',
  };
}

function late(packets: readonly HeardPacket[]): Finding | undefined {
  const heard = medianOfTransmitters(packets, ({ preambleMs }) => preambleMs);
  if (heard === undefined || heard >= BOUNDS.lateMs || transmitters(packets).size < BOUNDS.senders)
    return undefined;
  const missing = BOUNDS.usualTxDelayMs - heard;
  return {
    kind: 'late',
    words: `The first ${missing.toFixed(0)} ms of every packet are missing.`,
    number: `${heard.toFixed(0)} ms of preamble are left, of some ${BOUNDS.usualTxDelayMs} ms that are usual`,
    turn: 'Open the squelch; the battery saver of the radio off, since it sleeps between looks; noise gates off. If only one of your own devices sounds so, raise its TXDELAY.',
  };
}

function hum({ humDbfs, humHz, packets }: Heard, level: number | undefined): Finding | undefined {
  if (humDbfs === undefined) return undefined;
  const most = level === undefined ? BOUNDS.humDbfs : level - BOUNDS.humBelowPacketsDb;
  if (humDbfs <= most) return undefined;
  return {
    kind: 'hum',
    words: `The mains hum at ${humHz} Hz.`,
    number: `${dbfs(humDbfs)}${level === undefined || packets.length === 0 ? '' : `, ${db(level - humDbfs)} below the packets`}`,
    turn: 'Run the computer from its battery to find out; then one common earth, an isolating transformer in the audio, or another supply.',
  };
}

function offset({ offset: mean }: Heard): Finding | undefined {
  if (Math.abs(mean) <= BOUNDS.offset) return undefined;
  return {
    kind: 'offset',
    words: 'A direct voltage lies on the input.',
    number: `${share(Math.abs(mean))} of full scale`,
    turn: 'It takes away room for the sound. A capacitor in the cable, or the line input: a microphone input feeds a voltage out.',
  };
}

function steadyTone({ tones }: Heard, level: number | undefined): Finding | undefined {
  const [tone] = [...tones].sort((a, b) => b.dbfs - a.dbfs);
  if (!tone || (level !== undefined && tone.dbfs < level - BOUNDS.toneBelowPacketsDb)) return undefined;
  const isKeying = tone.when === 'with packets';
  return {
    kind: 'tone in the band',
    words: isKeying
      ? `A tone of ${tone.hz.toFixed(0)} Hz stands beside the packets: a keying tone leaks.`
      : `A tone of ${tone.hz.toFixed(0)} Hz stays on.`,
    number: `${dbfs(tone.dbfs)}${level === undefined ? '' : `, ${db(level - tone.dbfs)} below the packets`}`,
    turn: isKeying
      ? 'The keying tone must be above 10 kHz, where receivers do not pass it, and on the channel that only holds the key.'
      : 'A switching supply, a screen or another receiver: move the cable, or put a ferrite on it.',
  };
}

function notDecoded({ carriers, unread, packets }: Heard): Finding | undefined {
  if (packets.length === 0 || carriers < BOUNDS.carriers || unread / carriers <= BOUNDS.unreadShare)
    return undefined;
  return {
    kind: 'not decoded',
    words: `Of ${carriers} packets on the channel ${carriers - unread} were decoded.`,
    number: `${share(unread / carriers)} lost`,
    turn: 'Some are weak or collide, which nobody can mend. To find out: turn the volume one step down and check again; squelch open; noise reduction off; the default decoder.',
  };
}

function otherSounds({ bells, voiceShare, tones }: Heard): Finding | undefined {
  // A tone that stays on looks like bells between packets, and has a pitch, as a voice has.
  if (tones.length > 0) return undefined;
  if (bells >= BOUNDS.bells)
    return {
      kind: 'other sounds',
      words: 'Other sounds are mixed in.',
      number: some(bells, 'short tone that is', 'short tones that are') + ' no packet',
      turn: 'Mute notifications on this device and the beeps of the radio.',
    };
  if (voiceShare <= BOUNDS.voiceShare) return undefined;
  return {
    kind: 'other sounds',
    words: 'Voices are on this channel.',
    number: `${share(voiceShare)} of the time`,
    turn: 'Check the frequency; if it is a microphone that hears the room, use a cable.',
  };
}

function narrow({ noiseTiltDb }: Heard): Finding | undefined {
  if (noiseTiltDb === undefined || noiseTiltDb >= BOUNDS.narrowDb) return undefined;
  return {
    kind: 'narrow',
    words: 'The audio is narrow: its highs are missing.',
    number: `noise at 2200 Hz ${db(noiseTiltDb)} below that at 1200 Hz`,
    turn: 'Noise reduction, a narrow filter or a voice codec: off. Over Bluetooth use the data channel, not the headset’s.',
  };
}

/** before and after turning the knob of the radio by as much as would be heard. undefined: it follows. */
export function judgeKnob(before: Heard, after: Heard): Finding | undefined {
  const was = loudness(before);
  const is = loudness(after);
  if (was === undefined || is === undefined || Math.abs(is - was) >= BOUNDS.followsDb) return undefined;
  return {
    kind: 'knob without effect',
    words: 'The level does not follow the knob.',
    number: `${signed(is - was, 1)} after turning it`,
    turn: 'The input sets its gain itself, or noise suppression is on: switch both off where the input is set up. If the plug is in a fixed-level socket, the knob has no part in it.',
  };
}

/** The same thing is compared: packets with packets, else noise with noise. */
function loudness({ packets, noiseDbfs }: Heard): number | undefined {
  return noiseDbfs ?? medianOfTransmitters(packets, ({ levelDbfs }) => levelDbfs);
}

const signed = (value: number, digits = 0): string =>
  `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(digits)} dB`;

function transmitters(packets: readonly HeardPacket[]): Map<string, HeardPacket[]> {
  const each = new Map<string, HeardPacket[]>();
  for (const packet of packets)
    each.set(packet.transmitter, [...(each.get(packet.transmitter) ?? []), packet]);
  return each;
}

/** The median of the transmitters' medians: who sends much counts no more than others. */
function medianOfTransmitters(
  packets: readonly HeardPacket[],
  measure: (packet: HeardPacket) => number | undefined,
): number | undefined {
  return median(
    [...transmitters(packets).values()].flatMap(
      (own) => median(own.flatMap((one) => measure(one) ?? [])) ?? [],
    ),
  );
}
