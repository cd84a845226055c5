import { encodeAck, encodeMessage } from '@mistpeak/core/aprs/message';
import { parseAprs } from '@mistpeak/core/aprs/parse';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import type { Clock } from '@mistpeak/link/clock';
import type { Hub, Port } from '../internet-server/hub.js';
import { SERVER_NAME } from '../internet-server/internet-server.js';

/** What a service makes of a text: its answers, each after a while. */
type Answers = (text: string) => readonly { readonly afterMs: number; readonly text: string }[];

/** The services of the island, by their addressee. Numbers and addresses are invented. */
export const SERVICES: Readonly<Record<string, Answers>> = {
  /** Text to a phone: `@NNNNNNN text`. */
  HTEXT: (text) => {
    const match = /^@(\d+) (.+)$/s.exec(text);
    if (!match) return [{ afterMs: 3000, text: 'write @number text' }];
    const [, number] = match as unknown as [string, string];
    if (!/^99901\d\d$/.test(number)) return [{ afterMs: 3000, text: `${number} is no number here` }];
    return [
      { afterMs: 8000, text: `delivered to ${number}` },
      { afterMs: 16_000, text: `@${number} got it, thank you` },
    ];
  },
  /** Short mail: `name@place text`. */
  HMAIL: (text) => {
    const match = /^(\S+@hollin\.example) (.+)$/s.exec(text);
    return [{ afterMs: 6000, text: match ? `sent to ${match[1]}` : 'write name@hollin.example text' }];
  },
  /** Weather: `now`, `tonight`, or the name of a place. */
  HSKY: (text) => {
    const places = ['port velan', 'ostrick', 'nether quill', 'sallomere'];
    const asked = text.trim().toLowerCase();
    const answer =
      asked === 'now'
        ? 'wind SW 7 m/s, 9 C, cloud on the ridge'
        : asked === 'tonight'
          ? 'wind dropping, fog below 300 m after midnight'
          : places.includes(asked)
            ? `${text.trim()}: SW 5 m/s, 10 C, dry`
            : 'ask now, tonight or a village';
    return [{ afterMs: 5000, text: answer }];
  },
};

/** An answer that nobody has acknowledged is said again after so long, beyond what the hub takes for the same; then it is given up. */
const AGAIN_AFTER_MS = [31_000, 45_000, 60_000, 120_000];

/**
 * A service at the hub: acknowledges, and answers until its answer is acknowledged. isOpen: else it acknowledges alone. Returns
 * its end.
 */
export function service(
  hub: Hub,
  clock: Clock,
  name: string,
  answers: Answers,
  isOpen = (): boolean => true,
): () => void {
  const pending = new Map<string, () => void>();
  const done = new Set<string>();
  let number = 0;
  const say = (info: string): void =>
    hub.pass(`${name}>${OWN_DESTINATION},TCPIP*,qAC,${SERVER_NAME}:${info}`, port);
  const sayUntilAcknowledged = (to: string, text: string, of: string, tries: number): void => {
    const wait = AGAIN_AFTER_MS[tries];
    if (wait === undefined) pending.delete(of);
    else
      pending.set(
        of,
        clock.after(wait, () => sayUntilAcknowledged(to, text, of, tries + 1)),
      );
    say(encodeMessage(to, text, of));
  };
  const port: Port = {
    name,
    hears: (_, packet) => {
      const { type, message } = parseAprs(packet.info, packet.destination);
      if (message?.addressee !== name) return;
      if (type === 'ack' && message.number !== undefined) {
        pending.get(message.number)?.();
        pending.delete(message.number);
      }
      if (type !== 'message' || message.text === undefined) return;
      if (message.number !== undefined) say(encodeAck(packet.source, message.number));
      const key = `${packet.source} ${message.number ?? ''} ${message.text}`;
      if (done.has(key) || !isOpen()) return;
      done.add(key);
      for (const { afterMs, text } of answers(message.text)) {
        const of = String(++number);
        pending.set(
          of,
          clock.after(afterMs, () => sayUntilAcknowledged(packet.source, text, of, 0)),
        );
      }
    },
  };
  const leave = hub.join(port);
  return () => {
    leave();
    for (const cancel of pending.values()) cancel();
  };
}
