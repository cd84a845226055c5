import type { PortVoice } from '../port-voice/port-voice.js';

/**
 * Why a rung stays dark, in the order of likelihood for this chain. The causes are those that practitioners trace
 * (common practice, no source); what is known of this chain moves them up, down or out.
 */
export interface Cause {
  readonly cause: string;
  /** The next test that would tell. */
  readonly test: string;
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
  readonly txDelayMs: number;
  readonly hopsAsked: number;
  readonly heardDigipeaters: readonly string[];
  readonly channelUse: number;
  /** What the last receive check found wrong, and what to turn; of a day at most. */
  readonly levelTrouble?: { readonly words: string; readonly turn: string };
  /** The last two frames of ours were the same, so far apart. */
  readonly sameWordsAfterMs?: number;
}

interface Weighted extends Cause {
  readonly weight: number;
}

const TXDELAY_TIGHT_MS = 250;
const BUSY_CHANNEL = 0.4;
/** Some TNCs and Bluetooth ports need so long before they speak (common practice, no source). */
const WAKES_WITHIN_MS = 20_000;
/** Digipeaters take the same packet for a copy so long ("New n-N paradigm": about 30 s). */
export const DUPLICATE_MS = 30_000;

function ranked(causes: readonly Weighted[]): readonly Cause[] {
  return causes
    .filter(({ weight }) => weight > 0)
    .sort((a, b) => b.weight - a.weight)
    .map(({ cause, test }) => ({ cause, test }));
}

/** It was measured: that comes before what is only likely. */
function levelTrouble({ levelTrouble: found }: ChainFacts): Weighted {
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
      cause:
        'No sound reaches the sound card, or another input of it is chosen: a modem of our own says nothing before it hears.',
      test: 'Open the squelch and look at Levels: hiss must be seen there. Then do the receive check.',
    },
    {
      weight: isYoung ? 8 : 0,
      cause: `It was opened ${spanWords(facts.sinceOpenMs)} ago: some TNCs need a while before they speak.`,
      test: 'Wait until it has stood for half a minute before you change anything.',
    },
    {
      weight: isNetwork ? 5 : 0,
      cause: 'This port belongs to another service of the modem program.',
      test: 'Compare the number of the KISS port on both sides.',
    },
    {
      weight: isSerial ? 5 : 0,
      cause: 'KISS goes to the other transport of the radio, USB instead of Bluetooth or the reverse.',
      test: 'Look in the radio’s menu where KISS is sent, and choose this one.',
    },
    {
      weight: isSerial ? 3 : 0,
      cause: 'The speed between computer and TNC differs.',
      test: 'Try 9600, then 1200, 19200 and 115200 on the TNC page.',
    },
    {
      weight: 2,
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
      cause:
        'Nothing comes out of the receiver: another frequency or band, a tight squelch, the volume (wrong on many sets after every power cycle), or a link that is only half open. From here they look alike.',
      test: 'Open the squelch and listen to the radio itself. Packets to be heard: volume, or the way to the TNC. Only noise: frequency or band. Nothing: volume, or the set is off. If all is well there, close the link and open it again.',
    },
    {
      weight: 6,
      cause: 'The receiver is on another frequency or band, or in digital-voice mode.',
      test: 'Set FM and the frequency in the status line on the band that the TNC listens to.',
    },
    {
      weight: 5,
      cause:
        'The squelch is tight, or the volume was moved: on many handhelds it is wrong after every power cycle.',
      test: 'Open the squelch and turn the volume up from low; a click and a rasp should reach the TNC.',
    },
    halfOpen(facts, 4),
    {
      weight: 3,
      cause: 'The packets here go at another rate than the TNC: 1200 is usual, 9600 and 300 are in use.',
      test: 'Listen: 1200 sounds like two tones, 9600 like noise. Set the rate of the TNC to that.',
    },
    {
      weight: 3,
      cause: 'The radio mutes or filters data sounds.',
      test: 'Switch muting of data sounds and noise reduction off.',
    },
    {
      weight: 2,
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
      cause: 'The receiver was moved: frequency, band, squelch or volume, or it was switched off.',
      test: 'Listen to the radio itself with the squelch open: are there packets to be heard?',
    },
    {
      weight: 3,
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
      cause: 'The path asks nobody to repeat it, so no echo can come.',
      test: `Set the path to WIDE1-1,WIDE2-1 and ${SEND_AGAIN}.`,
    },
    {
      weight: isDuplicate(facts) ? 12 : 0,
      cause: `The same words went out ${spanWords(facts.sameWordsAfterMs ?? 0)} before: digipeaters drop the same packet within 30 s as a copy.`,
      test: 'Wait half a minute, or change the comment, before you send the next one.',
    },
    lostOctets(facts),
    {
      weight: 6,
      cause: 'The radio did not key.',
      test: 'Watch its transmit lamp while you send one: with a VOX cable raise the drive, with a PTT line check the plug.',
    },
    {
      weight: facts.txDelayMs < TXDELAY_TIGHT_MS ? 7 : 2,
      cause: `TXDELAY of ${facts.txDelayMs} ms cuts the start of the packet.`,
      test: `Raise it to 500 ms on the TNC page and ${SEND_AGAIN}.`,
    },
    {
      weight: hearsDigipeaters ? 3 : 7,
      cause: hearsDigipeaters
        ? `${facts.heardDigipeaters.join(', ')} is heard here, but does not hear you: power, antenna or place.`
        : 'No digipeater was heard direct here since the link was opened: you may be out of reach.',
      test: `Go to a window or higher up, raise the power, ${SEND_AGAIN}.`,
    },
    {
      weight: facts.channelUse > BUSY_CHANNEL ? 6 : 1,
      cause: 'The packet collided with another: the channel is shared, and not everyone hears everyone.',
      test: 'Send the next one after half a minute: if that one is repeated, it was this.',
    },
    {
      weight: 3,
      cause: 'Too loud or too quiet: others hear the packet and cannot decode it.',
      test: `Listen on a second receiver; turn the transmit audio down one step and ${SEND_AGAIN}.`,
    },
    {
      weight: 1,
      cause:
        'The TNC sends at another rate than the digipeaters here: 1200 is usual, 9600 and 300 are in use.',
      test: `Set its rate to the one of the channel, and ${SEND_AGAIN}.`,
    },
  ]);
}

/** The same words within half a minute would be dropped as a copy. */
const SEND_AGAIN = 'send the next one half a minute after the last';

/** Something that stands in the way whatever is proved: much of what comes cannot be read. Weight 0 where it is not so. */
function lostOctets({ broken, brokenPerMinute, decoded }: ChainFacts): Weighted {
  const isMuch = broken >= 2 && broken >= (decoded + broken) / 5;
  return {
    weight: isMuch ? 11 : 0,
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

function halfOpen({ silentMs, usualGapMs }: ChainFacts, weight: number): Weighted {
  const usually =
    usualGapMs === undefined ? '' : `, where one comes every ${spanWords(usualGapMs)} as a rule`;
  return {
    weight,
    cause: `The link is half open: the far end is gone without a word. Nothing was decoded for ${spanWords(silentMs)}${usually}.`,
    test: 'Close the link and open it again: if packets come then, that was it. Look whether the modem program still runs.',
  };
}

function textInstead({ text }: ChainFacts): Weighted {
  return {
    weight: text ? 14 : 0,
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

/** A session begins and then dies. */
export function causesOfDyingSessions(): readonly Cause[] {
  return [
    {
      cause: 'The squelch is too tight: it loses the start of every packet.',
      test: 'Open it, or lower it by a step, and call again.',
    },
    {
      cause: 'Somebody whom you do not hear sends at the same time: a hidden station.',
      test: 'Call when the channel is quiet, with shorter frames (PACLEN 64).',
    },
    {
      cause: 'The signal is weak: short frames pass and long ones do not.',
      test: 'Look at what had to be sent again in the link quality, and set what it advises.',
    },
    {
      cause: 'The timers are too short for the way, as with digipeaters between.',
      test: 'Compute them again for this way, or set a longer T1.',
    },
  ];
}

/** The gateway answers, and there is no login. */
export function causesOfRefusedLogins(): readonly Cause[] {
  return [
    {
      cause: 'The gateway is well, and its mail service is out of reach from there.',
      test: 'Read its words in the session’s lines, and take the next gateway.',
    },
    {
      cause: 'The password is not that of the account; small and capital letters count.',
      test: 'Give it anew under Mail, Account; try it by TCP, without the radio, where you can.',
    },
    {
      cause: 'The account is new, or was never made: the service knows no password for it.',
      test: 'Connect with nothing queued and without a password: a first one comes as a letter.',
    },
    {
      cause: 'What answers on that SSID is no mail gateway.',
      test: 'Compare call and SSID: 10 is usual. Visit it in Terminal.',
    },
  ];
}

/** The login is well, and letters do not go or come. */
export function causesOfLettersThatStay(): readonly Cause[] {
  return [
    {
      cause: 'The link dies under long frames: short ones pass, blocks of a letter do not.',
      test: 'Look at what had to be sent again in the session; set a shorter PACLEN, and call once more: it goes on where it broke.',
    },
    {
      cause: 'The letter is held back: only over the internet, not before its time, or for another station.',
      test: 'Look at it in the satchel.',
    },
    {
      cause: 'The other end puts it off or refuses it: too large, or an addressee that it does not know.',
      test: 'Read the note at the letter; make it smaller, compare the address.',
    },
  ];
}
