import type { SessionView } from '@mistpeak/contract/sessions';
import type { LeftOpen } from './session-store.js';

/** The far end believes that long in a link that we have lost; after that it has asked and found out (T3, N2). */
const LET_GO_WITHIN_MS = 5 * 60_000;

/** Sessions that stood when an earlier process went away: over, and the far ends that are still to be told. */
export class LostSessions {
  private waiting: { readonly view: SessionView; readonly untilMs: number }[] = [];

  /** How it stands in the record from now on. */
  note({ view, touchedAtMs }: LeftOpen, nowMs: number): SessionView {
    const { confirmedOctets, queuedOctets } = view;
    const rest =
      confirmedOctets < queuedOctets ? [{ fromOctet: confirmedOctets, toOctet: queuedOctets }] : [];
    const over: SessionView = {
      ...view,
      phase: 'disconnected',
      endedAtMs: nowMs,
      outcome: 'lost: Mistpeak was stopped while it stood',
      lost: [...view.lost, ...rest],
    };
    this.waiting.push({ view: over, untilMs: touchedAtMs + LET_GO_WITHIN_MS });
    return over;
  }

  /** Whom to let go of on that link, as the station in force there. Each is given once. */
  due(linkId: string, call: string | undefined, nowMs: number): SessionView[] {
    this.waiting = this.waiting.filter(({ untilMs }) => untilMs > nowMs);
    // The mailbox has an SSID of its own, whatever call is in force.
    const maySpeak = ({ own, calledBy }: SessionView): boolean =>
      call !== undefined && (own === call || calledBy === 'them');
    const due = this.waiting.filter(({ view }) => view.linkId === linkId && maySpeak(view));
    this.waiting = this.waiting.filter((one) => !due.includes(one));
    return due.map(({ view }) => view);
  }
}
