import type { Ax25Frame } from '../ax25/frame.js';
import { agreed, decodeXid, encodeXid, type LinkAbilities } from '../ax25/xid.js';
import { isMalformed } from '../bits/malformed.js';
import type { Draft } from './draft.js';
import { MOST_RECEIVED_OCTETS } from './frame-faults.js';
import { limitsOf } from './limits.js';

/**
 * XID on a link that stands ("Parameter negotiation"): what the other end takes. Numbers and recovery stay as the link was
 * set up; frames get no longer, the window no larger than it takes, and segments are made where it puts them together.
 */

/** Who never answers does not know XID, or does not want it. */
const XID_TRIES = 3;

export function askByXid(draft: Draft): void {
  draft.state.xidAsked++;
  draft.command({ kind: 'XID', pf: true }, { pid: 0, octets: encodeXid(abilities(draft)) });
  draft.start('XID');
}

export function askByXidAgain(draft: Draft): void {
  if (draft.state.xidAsked < XID_TRIES) askByXid(draft);
  else draft.state.xidAsked = 0;
}

export function answerXid(draft: Draft, { info, control }: Ax25Frame): void {
  const theirs = decodeXid(info);
  if (isMalformed(theirs)) return draft.trouble('unreadable frame');
  const both = agreed(abilities(draft), theirs);
  draft.response({ kind: 'XID', pf: control.pf }, encodeXid(both));
  settle(draft, both);
}

/** The answer to our question; another one is passed over. */
export function takeXid(draft: Draft, { info }: Ax25Frame): void {
  if (draft.state.xidAsked === 0) return;
  const theirs = decodeXid(info);
  if (isMalformed(theirs)) return draft.trouble('unreadable frame');
  draft.stop('XID');
  draft.state.xidAsked = 0;
  settle(draft, agreed(abilities(draft), theirs));
}

function settle(draft: Draft, { receiveOctets, receiveWindow, segments }: LinkAbilities): void {
  const { state } = draft;
  state.limits = {
    packetOctets: Math.max(1, receiveOctets),
    window: Math.max(1, receiveWindow),
    segments: segments && receiveOctets > 2,
  };
  const { packetOctets } = limitsOf(draft);
  // What waits was cut before this was known.
  state.pending = state.pending.flatMap((piece) => {
    const { pid, octets } = piece;
    if (octets.length <= packetOctets || piece.carries !== undefined) return [piece];
    return Array.from({ length: Math.ceil(octets.length / packetOctets) }, (_, i) => ({
      pid,
      octets: octets.slice(i * packetOctets, (i + 1) * packetOctets),
    }));
  });
}

function abilities({ options, state }: Draft): LinkAbilities {
  return {
    halfDuplex: true,
    recovery: state.selective ? 'both' : 'reject',
    modulo: state.modulo,
    receiveOctets: MOST_RECEIVED_OCTETS,
    receiveWindow: state.modulo === 8 ? options.window8 : options.window128,
    acknowledgeTimerMs: Math.min(65_535, options.firstT1Ms),
    retries: options.retries,
    segments: true,
  };
}
