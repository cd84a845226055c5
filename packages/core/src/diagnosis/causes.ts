/**
 * Why a rung stays dark, in the order of likelihood for this chain. The causes are those that practitioners trace
 * (common practice, no source); what is known of this chain moves them up, down or out.
 */
export interface Cause {
  readonly cause: string;
  /** The next test that would tell. */
  readonly test: string;
}

/** What is known here. levels: shares 0 to 1; heardDigipeaters: heard direct within the last half hour. */
export interface ChainFacts {
  readonly linkKind: 'network' | 'serial';
  readonly textBeforeFrames: boolean;
  readonly brokenFrames: number;
  readonly framesRead: number;
  readonly txDelayMs: number;
  readonly hopsAsked: number;
  readonly heardDigipeaters: readonly string[];
  readonly channelUse: number;
}

interface Weighted extends Cause {
  readonly weight: number;
}

const TXDELAY_TIGHT_MS = 250;
const BUSY_CHANNEL = 0.4;

function ranked(causes: readonly Weighted[]): readonly Cause[] {
  return causes
    .filter(({ weight }) => weight > 0)
    .sort((a, b) => b.weight - a.weight)
    .map(({ cause, test }) => ({ cause, test }));
}

/** The port opens, but nothing that is KISS comes. */
export function causesOfSilentTnc(facts: ChainFacts): readonly Cause[] {
  const isNetwork = facts.linkKind === 'network';
  return ranked([
    {
      weight: facts.textBeforeFrames ? 10 : 1,
      cause: 'The TNC talks text, not KISS: position sentences or a command prompt.',
      test: 'Switch its output to KISS in its menu, then watch “outside a frame” on the TNC page: it must stop counting.',
    },
    {
      weight: isNetwork ? 5 : 0,
      cause: 'This port belongs to another service of the modem program.',
      test: 'Compare the KISS port on both sides: 8001 and 8100 are both usual.',
    },
    {
      weight: isNetwork ? 0 : 5,
      cause: 'KISS goes to the other transport of the radio, USB instead of Bluetooth or the reverse.',
      test: 'Look in the radio’s menu where KISS is sent, and choose this one.',
    },
    {
      weight: isNetwork ? 0 : 3,
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
    {
      weight: facts.brokenFrames > 0 ? 9 : 0,
      cause: 'Octets are lost between TNC and computer.',
      test: 'Set flow control to none on both sides, try a lower speed or a shorter cable.',
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
      test: 'Open the squelch and set the volume to the middle; a click and a rasp should reach the TNC.',
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

/** Handed over, and nobody repeated it. */
export function causesOfNoEcho(facts: ChainFacts): readonly Cause[] {
  const hearsDigipeaters = facts.heardDigipeaters.length > 0;
  return ranked([
    {
      weight: facts.hopsAsked === 0 ? 20 : 0,
      cause: 'The path asks nobody to repeat it, so no echo can come.',
      test: 'Set the path to WIDE1-1,WIDE2-1 and send one more.',
    },
    {
      weight: facts.framesRead === 0 ? 9 : 0,
      cause: 'Nothing is heard here at all, so an echo could not be either.',
      test: 'First prove “packet decoded”.',
    },
    {
      weight: 6,
      cause: 'The radio did not key.',
      test: 'Watch its transmit lamp while you send one: with a VOX cable raise the drive, with a PTT line check the plug.',
    },
    {
      weight: facts.txDelayMs < TXDELAY_TIGHT_MS ? 7 : 2,
      cause: `TXDELAY of ${facts.txDelayMs} ms cuts the start of the packet.`,
      test: 'Raise it to 500 ms on the TNC page and send one more.',
    },
    {
      weight: hearsDigipeaters ? 3 : 7,
      cause: hearsDigipeaters
        ? `${facts.heardDigipeaters.join(', ')} is heard here, but does not hear you: power, antenna or place.`
        : 'No digipeater was heard direct here in the last half hour: you may be out of reach.',
      test: 'Go to a window or higher up, raise the power, send one more.',
    },
    {
      weight: facts.channelUse > BUSY_CHANNEL ? 6 : 1,
      cause: 'The packet collided with another: the channel is shared, and not everyone hears everyone.',
      test: 'Send one more; one or two tries usually tell.',
    },
    {
      weight: 3,
      cause: 'Too loud or too quiet: others hear the packet and cannot decode it.',
      test: 'Listen on a second receiver; turn the transmit audio down one step and send one more.',
    },
  ]);
}
