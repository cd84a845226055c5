import type { Finding } from '../faults/bayes.js';
import type { FaultId, Outlook } from '../faults/faults.js';
import type { Keying } from '../kit/item.js';
import {
  QUIET,
  NO_SPEECH,
  SOON,
  OTHER_RATE,
  NOT_REPEATED,
  NOT_KEYED,
  START_MISSING,
  COLLIDED,
} from './outlooks.js';
import type { PortVoice } from '../port-voice/port-voice.js';

/**
 * Why a rung stays dark, in the order of likelihood for this chain. The causes are those that practitioners trace
 * (common practice, no source); what is known of this chain moves them up, down or out.
 */
export interface Cause {
  readonly cause: string;
  /** The next test that would tell. */
  readonly test: string;
  /** How likely by what is known of the link, against the others of the same list. */
  readonly weight: number;
  /** What of the table of faults it is; of several, any. Absent: of that table none. */
  readonly faults?: readonly FaultId[];
  /** How tests come out with it, where it is none of that table. */
  readonly outlook?: Outlook;
  /** Several in one, for who has tried nothing yet. */
  readonly isLump?: true;
}

/** How the radio is keyed and what else could carry a packet, as far as it decides which faults there can be. */
export interface ChainShape {
  readonly keying?: Keying;
  readonly hasInternetWay: boolean;
  readonly hasRadioControl: boolean;
}

/**
 * What is known here and now: nothing of it is from before this opening. Times in ms; shares 0 to 1.
 * decoded: packets; broken: what began as a frame and could not be read. heardDigipeaters: heard direct.
 */
export interface ChainFacts {
  readonly linkKind: 'network' | 'serial' | 'sound';
  readonly sinceOpenMs: number;
  readonly decoded: number;
  readonly broken: number;
  readonly brokenPerMinute: number;
  /** Since a packet was decoded; since the opening, where none was. */
  readonly silentMs: number;
  /** How far packets are apart here as a rule; unknown where too few were heard. */
  readonly usualGapMs?: number;
  /** What came where it was no KISS. */
  readonly text?: PortVoice;
  /** KISS was heard from the TNC since the opening, packets or not. */
  readonly talksKiss?: boolean;
  readonly txDelayMs: number;
  readonly hopsAsked: number;
  readonly heardDigipeaters: readonly string[];
  readonly channelUse: number;
  /** What the last receive check found wrong, and what to turn; of a day at most. */
  readonly levelTrouble?: { readonly words: string; readonly turn: string };
  /** The last two frames of ours were the same, so far apart. */
  readonly sameWordsAfterMs?: number;
  /** What of the chain is known; absent: not known. */
  readonly chain?: ChainShape;
  /** What tests came to that were made in the last hours, by Mistpeak or by the operator. */
  readonly findings?: readonly Finding[];
}

const TXDELAY_TIGHT_MS = 250;
const BUSY_CHANNEL = 0.4;
/** Some TNCs and Bluetooth ports need so long before they speak (common practice, no source). */
const WAKES_WITHIN_MS = 20_000;
/** Digipeaters take the same packet for a copy so long ("New n-N paradigm": about 30 s). */
export const DUPLICATE_MS = 30_000;

const ranked = (causes: readonly Cause[]): readonly Cause[] =>
  causes.filter(({ weight }) => weight > 0).sort((a, b) => b.weight - a.weight);

/** It was measured: that comes before what is only likely. */
function levelTrouble({ levelTrouble: found }: ChainFacts): Cause {
  return {
    weight: found ? 10 : 0,
    cause: `The last receive check found: ${found?.words ?? ''}`,
    test: found?.turn ?? '',
  };
}

/** The port opens, but nothing that is KISS comes. */
export function causesOfSilentTnc(facts: ChainFacts): readonly Cause[] {
  const isNetwork = facts.linkKind === 'network';
  const isSerial = facts.linkKind === 'serial';
  const isYoung = facts.sinceOpenMs < WAKES_WITHIN_MS;
  return ranked([
    textInstead(facts),
    lostOctets(facts),
    levelTrouble(facts),
    {
      weight: facts.linkKind === 'sound' ? 6 : 0,
      faults: ['deaf', 'plug'],
      cause:
        'No sound reaches the sound card, or another input of it is chosen: a modem of our own says nothing before it hears.',
      test: 'Open the squelch and look at Levels: hiss must be seen there. Then do the receive check.',
    },
    {
      weight: isYoung ? 8 : 0,
      outlook: SOON,
      cause: `It was opened ${spanWords(facts.sinceOpenMs)} ago: some TNCs need a while before they speak.`,
      test: 'Wait until it has stood for half a minute before you change anything.',
    },
    {
      weight: isNetwork ? 5 : 0,
      faults: ['wrong-port'],
      cause: 'This port belongs to another service of the modem program.',
      test: 'Compare the number of the KISS port on both sides.',
    },
    {
      weight: isSerial ? 5 : 0,
      faults: ['kiss-off', 'wrong-port'],
      cause: 'KISS goes to the other transport of the radio, USB instead of Bluetooth or the reverse.',
      test: 'Look in the radio’s menu where KISS is sent, and choose this one.',
    },
    {
      weight: isSerial ? 3 : 0,
      outlook: NO_SPEECH,
      cause: 'The speed between computer and TNC differs.',
      test: 'Try 9600, then 1200, 19200 and 115200 on the TNC page.',
    },
    {
      weight: 2,
      outlook: QUIET,
      cause: 'Nobody has sent anything yet: a TNC says nothing of its own.',
      test: 'Open the squelch and listen: you should hear packets; send one from a second radio.',
    },
  ]);
}

/** KISS frames or nothing at all arrive, but no packet can be read. */
export function causesOfNothingDecoded(facts: ChainFacts): readonly Cause[] {
  return ranked([
    textInstead(facts),
    lostOctets(facts),
    levelTrouble(facts),
    {
      weight: 8,
      faults: ['wrong-band', 'squelch', 'deaf'],
      isLump: true,
      cause:
        'Nothing comes out of the receiver: another frequency or band, a tight squelch, the volume (wrong on many sets after every power cycle), or a link that is only half open. From here they look alike.',
      test: 'Open the squelch and listen to the radio itself. Packets to be heard: volume, or the way to the TNC. Only noise: frequency or band. Nothing: volume, or the set is off. If all is well there, close the link and open it again.',
    },
    {
      weight: 6,
      faults: ['wrong-band'],
      cause: 'The receiver is on another frequency or band, or in digital-voice mode.',
      test: 'Set FM and the frequency in the status line on the band that the TNC listens to.',
    },
    {
      weight: 5,
      faults: ['squelch', 'deaf'],
      cause:
        'The squelch is tight, or the volume was moved: on many handhelds it is wrong after every power cycle.',
      test: 'Open the squelch and turn the volume up from low; a click and a rasp should reach the TNC.',
    },
    halfOpen(facts, 4),
    {
      weight: 3,
      outlook: OTHER_RATE,
      cause: 'The packets here go at another rate than the TNC: 1200 is usual, 9600 and 300 are in use.',
      test: 'Listen: 1200 sounds like two tones, 9600 like noise. Set the rate of the TNC to that.',
    },
    {
      weight: 3,
      faults: ['deaf'],
      cause: 'The radio mutes or filters data sounds.',
      test: 'Switch muting of data sounds and noise reduction off.',
    },
    {
      weight: 2,
      outlook: QUIET,
      cause: 'There is no traffic here now.',
      test: 'Listen for a while, or ask somebody to send one packet.',
    },
  ]);
}

/** Packets came since the opening, and then no more, for longer than is usual here. */
export function causesOfSilence(facts: ChainFacts): readonly Cause[] {
  return ranked([
    halfOpen(facts, 9),
    levelTrouble(facts),
    {
      weight: 5,
      faults: ['wrong-band', 'squelch', 'deaf'],
      cause: 'The receiver was moved: frequency, band, squelch or volume, or it was switched off.',
      test: 'Listen to the radio itself with the squelch open: are there packets to be heard?',
    },
    {
      weight: 3,
      outlook: QUIET,
      cause: 'The channel is quiet now.',
      test: 'Wait, or ask somebody to send one packet.',
    },
  ]);
}

/** Handed over, and nobody repeated it. Only where packets are heard: else an echo could not be either. */
export function causesOfNoEcho(facts: ChainFacts): readonly Cause[] {
  const hearsDigipeaters = facts.heardDigipeaters.length > 0;
  return ranked([
    {
      weight: facts.hopsAsked === 0 ? 20 : 0,
      faults: ['path'],
      cause: 'The path asks nobody to repeat it, so no echo can come.',
      test: `Set the path to WIDE1-1,WIDE2-1 and ${SEND_AGAIN}.`,
    },
    {
      weight: isDuplicate(facts) ? 12 : 0,
      outlook: NOT_REPEATED,
      cause: `The same words went out ${spanWords(facts.sameWordsAfterMs ?? 0)} before: digipeaters drop the same packet within 30 s as a copy.`,
      test: 'Wait half a minute, or change the comment, before you send the next one.',
    },
    lostOctets(facts),
    {
      weight: 6,
      outlook: NOT_KEYED,
      cause: 'The radio did not key.',
      test: 'Watch its transmit lamp while you send one: with a VOX cable raise the drive, with a PTT line check the plug.',
    },
    {
      weight: facts.txDelayMs < TXDELAY_TIGHT_MS ? 7 : 2,
      outlook: START_MISSING,
      cause: `TXDELAY of ${facts.txDelayMs} ms cuts the start of the packet.`,
      test: `Raise it to 500 ms on the TNC page and ${SEND_AGAIN}.`,
    },
    {
      weight: hearsDigipeaters ? 3 : 7,
      outlook: NOT_REPEATED,
      cause: hearsDigipeaters
        ? `${facts.heardDigipeaters.join(', ')} is heard here, but does not hear you: power, antenna or place.`
        : 'No digipeater was heard direct here since the link was opened: you may be out of reach.',
      test: `Go to a window or higher up, raise the power, ${SEND_AGAIN}.`,
    },
    {
      weight: facts.channelUse > BUSY_CHANNEL ? 6 : 1,
      outlook: COLLIDED,
      cause: 'The packet collided with another: the channel is shared, and not everyone hears everyone.',
      test: 'Send the next one after half a minute: if that one is repeated, it was this.',
    },
    {
      weight: 3,
      faults: ['over-deviated', 'plug'],
      cause: 'Too loud or too quiet: others hear the packet and cannot decode it.',
      test: `Listen on a second receiver; turn the transmit audio down one step and ${SEND_AGAIN}.`,
    },
    {
      weight: 1,
      outlook: OTHER_RATE,
      cause:
        'The TNC sends at another rate than the digipeaters here: 1200 is usual, 9600 and 300 are in use.',
      test: `Set its rate to the one of the channel, and ${SEND_AGAIN}.`,
    },
  ]);
}

/** The same words within half a minute would be dropped as a copy. */
const SEND_AGAIN = 'send the next one half a minute after the last';

/** Something that stands in the way whatever is proved: much of what comes cannot be read. Weight 0 where it is not so. */
function lostOctets({ broken, brokenPerMinute, decoded }: ChainFacts): Cause {
  const isMuch = broken >= 2 && broken >= (decoded + broken) / 5;
  return {
    weight: isMuch ? 11 : 0,
    outlook: { decode: { 'a few': 0.8 } },
    cause: `Octets are lost between TNC and computer: ${broken} of ${broken + decoded} frames since the opening could not be read, ${figure(brokenPerMinute)} a minute.`,
    test: 'Push the plugs home, take a shorter cable, set flow control to none on both sides, try a lower speed.',
  };
}

/** Whether so much is lost that it must be told though packets are decoded. */
export function losesOctets(facts: ChainFacts): boolean {
  return lostOctets(facts).weight > 0;
}

export function causesOfLostOctets(facts: ChainFacts): readonly Cause[] {
  return ranked([
    lostOctets(facts),
    {
      weight: 3,
      outlook: {},
      cause: 'The TNC passes on frames whose checksum is wrong.',
      test: 'Switch off in the TNC what lets bad frames through (often called pass all).',
    },
  ]);
}

/** A silence is unusual when it lasts four usual gaps, and half a minute at the least: chance alone makes one in fifty so long. */
const UNUSUAL_GAPS = 4;
const LEAST_SILENCE_MS = 30_000;

/** Packets were decoded since the opening, and none for much longer than is usual here. */
export function isUnusuallySilent({ decoded, silentMs, usualGapMs }: ChainFacts): boolean {
  if (decoded === 0 || usualGapMs === undefined) return false;
  return silentMs > Math.max(LEAST_SILENCE_MS, UNUSUAL_GAPS * usualGapMs);
}

function halfOpen({ silentMs, usualGapMs }: ChainFacts, weight: number): Cause {
  const usually =
    usualGapMs === undefined ? '' : `, where one comes every ${spanWords(usualGapMs)} as a rule`;
  return {
    weight,
    outlook: NO_SPEECH,
    cause: `The link is half open: the far end is gone without a word. Nothing was decoded for ${spanWords(silentMs)}${usually}.`,
    test: 'Close the link and open it again: if packets come then, that was it. Look whether the modem program still runs.',
  };
}

function textInstead({ text }: ChainFacts): Cause {
  return {
    weight: text ? 14 : 0,
    faults: ['kiss-off'],
    cause: text ? `What comes is no KISS: ${text.voice}. ${text.means}` : '',
    test: text?.change ?? '',
  };
}

const isDuplicate = ({ sameWordsAfterMs }: ChainFacts): boolean =>
  sameWordsAfterMs !== undefined && sameWordsAfterMs < DUPLICATE_MS;

/** `50 s`, `4 min`, `3 h`. */
export function spanWords(ms: number): string {
  if (ms < 120_000) return `${Math.round(ms / 1000)} s`;
  return ms < 7_200_000 ? `${Math.round(ms / 60_000)} min` : `${Math.round(ms / 3_600_000)} h`;
}

const figure = (value: number): string => (value < 10 ? value.toFixed(1) : String(Math.round(value)));
