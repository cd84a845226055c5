import type { KissValueCommand } from '@mistpeak/core/kiss/commands';
import type { LinkSettings, LinkView } from '@mistpeak/contract/link';
import type { SharingClientView, SharingView } from '@mistpeak/contract/sharing';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { formatAge } from '../../pieces/age';
import { persistenceOf } from '@mistpeak/core/kiss/parameters';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';

/** How a value that a program asked for reads, and what the link would be with it. */
const PARAMETERS: Partial<
  Record<
    KissValueCommand,
    { name: string; shown: (value: number) => string; as: (value: number) => Partial<LinkSettings> }
  >
> = {
  txdelay: { name: 'TXDELAY', shown: ms, as: (value) => ({ txDelayMs: value * 10 }) },
  persistence: {
    name: 'persistence',
    shown: (value) => persistenceOf(value).toFixed(2),
    as: (value) => ({ persistence: persistenceOf(value) }),
  },
  slottime: { name: 'slot time', shown: ms, as: (value) => ({ slotTimeMs: value * 10 }) },
  txtail: { name: 'tail', shown: ms, as: (value) => ({ txTailMs: value * 10 }) },
};

function ms(value: number): string {
  return `${value * 10} ms`;
}

/** Each program at the shared TNC: what it heard and sent, what was refused, what it may. */
export function SharingClients({ link, sharing }: { link: LinkView; sharing: SharingView }) {
  const nowMs = useNow(5000);
  const { problem, attempt } = useAttempt();
  const act = (method: 'PUT' | 'DELETE', path: string, body?: object): void => {
    void attempt(() => command(method, `/links/${link.id}${path}`, body));
  };
  const { clients, letGo } = sharing;
  return (
    <div className="pt-3">
      {clients.length === 0 && <p className="text-[13.5px] text-ink2">No program has connected.</p>}
      <ul>
        {clients.map((client) => (
          <li
            key={client.id}
            className="flex flex-wrap items-start gap-x-6 gap-y-2 border-t border-line py-2.5"
          >
            <div className="min-w-[16rem] flex-1">
              <p>
                <b className="font-mono text-[14px] font-[600]">{client.from}</b>{' '}
                <span className="text-[13.5px] text-ink2">for {formatAge(nowMs - client.sinceMs)}</span>
              </p>
              <p className="text-[13.5px] text-ink2">
                {client.heard} heard, {client.handed} sent
                {client.waiting > 0 ? `, ${client.waiting} waiting` : ''}
              </p>
              <Refused client={client} />
              <Asked
                client={client}
                link={link}
                use={(changes) => act('PUT', '', { ...link.settings, ...changes })}
              />
            </div>
            <div className="flex flex-wrap gap-2">
              <Button
                aria-pressed={client.mayTransmit}
                onClick={() =>
                  act('PUT', `/sharing/clients/${client.id}`, { mayTransmit: !client.mayTransmit })
                }
              >
                {client.mayTransmit ? 'Let it only receive' : 'Let it transmit'}
              </Button>
              <Button onClick={() => act('DELETE', `/sharing/clients/${client.id}`)}>Disconnect it</Button>
            </div>
          </li>
        ))}
      </ul>
      {letGo.flooded + letGo['read nothing'] > 0 && (
        <p className="text-[13.5px] text-look">
          Disconnected by Mistpeak: {letGo.flooded} that flooded, {letGo['read nothing']} that read nothing.
        </p>
      )}
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

function Refused({ client: { refused } }: { client: SharingClientView }) {
  const reasons = Object.entries(refused);
  if (reasons.length === 0) return null;
  return (
    <p className="text-[13.5px] text-look">
      not sent: {reasons.map(([reason, count]) => `${reason} (${count})`).join(', ')}
    </p>
  );
}

/** The link keeps what the operator set; one press takes over what a program asked for. */
function Asked({
  client: { asked },
  link,
  use,
}: {
  client: SharingClientView;
  link: LinkView;
  use: (changes: Partial<LinkSettings>) => void;
}) {
  return Object.entries(asked).map(([command, value]) => {
    const parameter = PARAMETERS[command as KissValueCommand];
    if (!parameter) return null;
    const changes = parameter.as(value);
    const isSame = Object.entries(changes).every(
      ([name, one]) => Math.abs(Number(link.settings[name as keyof LinkSettings]) - Number(one)) < 0.005,
    );
    return (
      <p key={command} className="text-[13.5px] text-ink2">
        asked for {parameter.name} <span className="font-mono text-ink">{parameter.shown(value)}</span>
        {isSame ? ', as it is' : ', not done '}
        {!isSame && (
          <button
            type="button"
            onClick={() => use(changes)}
            className="underline underline-offset-4 max-md:min-h-11"
          >
            use it for all
          </button>
        )}
      </p>
    );
  });
}
