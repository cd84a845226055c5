import { shortestEveryMs } from '@mistpeak/core/beacon/plan';
import { SILENT } from '@mistpeak/core/messages/auto-answer';
import { isOpen } from '@mistpeak/core/messages/entries';
import { INTERNET_SIDE } from '@mistpeak/contract/frame';
import type { InternetSettings } from '@mistpeak/contract/internet';
import type { OperatorView } from '@mistpeak/contract/operator';
import { Link } from 'react-router';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { settingsOfWay } from '../../live/settings-of-way';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';
import { useGatingSettings } from './gating-settings';
import { WayMark } from '../../pieces/way-mark';

/** One line for each sender that Mistpeak knows of. */
interface Sender {
  readonly id: string;
  readonly what: string;
  readonly from: string;
  readonly way: string;
  readonly byInternet: boolean;
  readonly every: string;
  readonly isOn: boolean;
  readonly why?: string;
  /** Where it is changed. */
  readonly to: string;
  readonly turn?: () => Promise<unknown>;
}

/** Everything that leaves by itself or waits to, with its way, its interval and a switch. */
export function LeavingPart({ operator }: { operator: OperatorView }) {
  const senders = useSenders(operator);
  const on = senders.filter(({ isOn }) => isOn);
  const byInternet = on.filter((one) => one.byInternet).length;
  return (
    <div className="flex flex-col gap-4">
      <p role="status" className="text-[19px] leading-snug font-[620]">
        {on.length === 0
          ? 'Nothing leaves by itself, by no way.'
          : `${on.length} ${on.length === 1 ? 'sender is' : 'senders are'} on: ${on.length - byInternet} by radio, ${byInternet} by the internet.`}
      </p>
      <Table stacks columns={['What', 'From', 'Way', 'How often', 'Now', { head: 'Switch', isHidden: true }]}>
        {senders.map((sender) => (
          <SenderRow key={sender.id} sender={sender} />
        ))}
      </Table>
      <p className="max-w-[46rem] text-[13.5px] text-ink2">
        The same call-SSID by two ways makes one station jump about, and an acknowledgement may come to the
        wrong one: give each its own. What other apps and the radios themselves send stands in the Kit and
        cannot be switched from here.
      </p>
    </div>
  );
}

function SenderRow({ sender }: { sender: Sender }) {
  const { problem, isBusy, attempt } = useAttempt();
  const { what, from, way, byInternet, every, isOn, why, to, turn } = sender;
  return (
    <tr className="border-t border-line align-baseline" data-sender={sender.id}>
      <th scope="row" className="py-2 pr-4 font-[560]">
        <Link to={to} className="underline decoration-edge underline-offset-3">
          {what}
        </Link>
      </th>
      <td className={`py-2 pr-4 ${/[A-Z]/.test(from) ? 'font-mono' : 'text-ink2'}`}>{from}</td>
      <td className="py-2 pr-4">
        <WayMark byInternet={byInternet} /> {way}
      </td>
      <td className="py-2 pr-4">{every}</td>
      <td className={`py-2 pr-4 ${isOn ? '' : 'text-ink3'}`}>
        {isOn ? 'on' : 'off'}
        {why !== undefined && <span className="block text-[13px] text-ink2">{why}</span>}
        {problem && <ProblemNote problem={problem} />}
      </td>
      <td className="py-2 text-right">
        {turn && (
          <OperatorOnly>
            <Button
              kind={isOn ? 'stop' : 'plain'}
              disabled={isBusy}
              aria-label={`${isOn ? 'Switch off' : 'Switch on'}: ${what} of ${from} by ${way}`}
              onClick={() => void attempt(turn)}
            >
              {isOn ? 'Switch off' : 'Switch on'}
            </Button>
          </OperatorOnly>
        )}
      </td>
    </tr>
  );
}

const PASSED_ON = [
  { name: 'receiveGate', what: 'Receive gate', byInternet: true },
  { name: 'transmitGate', what: 'Transmit gate', byInternet: false },
  { name: 'fillIn', what: 'Fill-in digipeater', byInternet: false },
] as const;

function useSenders(operator: OperatorView): Sender[] {
  const { beaconWays, links, messages, internet, kit, locks, sharing } = useLive();
  const { saved: passing, version } = useGatingSettings();
  const nowMs = useNow(1000);
  const nameOf = (linkId: string): string =>
    linkId === INTERNET_SIDE
      ? 'internet'
      : (links.find(({ id }) => id === linkId)?.settings.name ?? 'a link that is gone');
  const waiting = messages.outgoing.filter(isOpen);
  const { settings } = internet;
  const answersAnything = Object.values(messages.settings.answers).some(
    (answer) => answer !== false && answer !== '',
  );
  return [
    ...beaconWays.map((way): Sender => {
      const everyMs = shortestEveryMs(way.plan);
      const { id, source, linkId, isOn, nextAtMs, waitsFor } = way;
      const why = waitsFor
        ? `waits for the ${waitsFor}`
        : nextAtMs === undefined
          ? undefined
          : `next in ${formatAge(nextAtMs - nowMs)}`;
      return {
        id,
        what: 'Beacon',
        from: source,
        way: nameOf(linkId),
        byInternet: false,
        every: Number.isFinite(everyMs) ? `every ${formatAge(everyMs)} at most` : 'once',
        isOn,
        ...(isOn && why !== undefined ? { why } : {}),
        to: '/beacon/ways',
        turn: () =>
          command('PUT', `/beacon/ways/${id}`, { ...settingsOfWay(way), isOn: !isOn, version: way.version }),
      };
    }),
    ...[...new Set(waiting.map(({ from, linkId }) => `${from} ${linkId}`))].map((key): Sender => {
      const [from = '', linkId = ''] = key.split(' ');
      const mine = waiting.filter((one) => one.from === from && one.linkId === linkId);
      return {
        id: `messages ${key}`,
        what: mine.length === 1 ? 'A message' : `${mine.length} messages`,
        from,
        way: nameOf(linkId),
        byInternet: linkId === INTERNET_SIDE,
        every: `up to ${messages.settings.tries} tries`,
        isOn: true,
        to: '/messages',
        turn: () => Promise.all(mine.map(({ id }) => command('POST', `/messages/${id}/cancel`))),
      };
    }),
    {
      id: 'answers',
      what: 'Answers without a person',
      from: [...locks.values()].find(({ armed }) => armed)?.call ?? operator.call,
      way: 'the way of the question',
      byInternet: false,
      every: 'one a minute at most',
      isOn: answersAnything,
      to: '/messages/rules',
      // Which of them is chosen where they stand.
      ...(answersAnything
        ? { turn: () => command('PUT', '/messages/settings', { ...messages.settings, answers: SILENT }) }
        : {}),
    },
    ...(settings
      ? [
          {
            id: 'internet',
            what: 'My messages by the internet',
            from: settings.call,
            way: settings.host,
            byInternet: true,
            every: 'as they are written',
            isOn: settings.isOn && settings.sends,
            ...(settings.sends && !settings.isOn ? { why: 'the connection is off' } : {}),
            to: '/ways/internet',
            turn: () =>
              command('PUT', '/internet/settings', {
                ...settings,
                sends: !settings.sends,
              } satisfies InternetSettings),
          },
        ]
      : []),
    ...PASSED_ON.map(({ name, what, byInternet }): Sender => ({
      id: name,
      what,
      from: byInternet ? 'those who are heard' : 'those who ask for it',
      way: byInternet ? (settings?.host ?? 'internet') : nameOf(passing.linkId),
      byInternet,
      every: byInternet ? 'as it is heard' : 'within its limits',
      isOn: passing[name],
      to: '/ways/gates',
      // What sends by itself wants a word on local rules first: that is given where it stands.
      ...(byInternet || passing.allowsAutomatic || passing[name]
        ? {
            turn: () =>
              command('PUT', '/gating/settings', {
                ...passing,
                [name]: !passing[name],
                ...(version === undefined ? {} : { version }),
              }),
          }
        : {}),
    })),
    ...[...sharing.values()]
      .filter(({ isListening }) => isListening)
      .map((share): Sender => ({
        id: `sharing ${share.linkId}`,
        what: 'Programs that share the TNC',
        from: 'their own calls',
        way: nameOf(share.linkId),
        byInternet: false,
        every: 'as they wish, in turns',
        isOn: share.clients.some(({ mayTransmit }) => mayTransmit),
        to: `/tnc/${share.linkId}/sharing`,
      })),
    ...kit
      .filter(({ switches }) => switches.ownBeacon !== undefined && /^on\b/i.test(switches.ownBeacon))
      .map(({ id, name }): Sender => ({
        id: `kit ${id}`,
        what: 'The radio’s own beacon',
        from: 'set in the radio',
        way: name,
        byInternet: false,
        every: 'set in the radio',
        isOn: true,
        to: '/kit',
      })),
  ];
}
