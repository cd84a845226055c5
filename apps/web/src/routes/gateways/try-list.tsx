import { useState } from 'react';
import { channelsCsv } from '@mistpeak/core/gateways/channels';
import type { Ranked } from '@mistpeak/core/gateways/rank';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import type { GatewayEntry, MailProfile } from '@mistpeak/contract/mail-settings';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { SavedNode } from '@mistpeak/contract/terminal';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { saveFile } from '../../pieces/save-file';
import { Table } from '../../pieces/table';
import { wayInWords } from './order';

/** A list of mail takes so many. */
const MOST_ENTRIES = 20;

/** Those that are taken along: to Mail, to the terminal, on paper, into a radio. */
export function TryList({
  chosen,
  isPicked,
  operator,
}: {
  chosen: readonly Ranked[];
  isPicked: boolean;
  operator: OperatorView;
}) {
  const linkId = useLive((state) => state.links[0]?.id);
  const [done, setDone] = useState('');
  const { problem, isBusy, attempt } = useAttempt();
  const take = (task: () => Promise<string>): void =>
    void attempt(async () => {
      setDone('');
      setDone(await task());
    });
  if (chosen.length === 0) return null;
  return (
    <section aria-label="Take along" className="flex flex-col gap-2 border-t-[1.5px] border-ink pt-2.5">
      <h2>{isPicked ? `Take the ${chosen.length} chosen along` : `Take the first ${chosen.length} along`}</h2>
      <Table
        columns={['#', 'Call', 'MHz', 'Bearing', 'Distance', 'Best hour']}
        className="hidden w-full text-[14px] print:table"
      >
        {chosen.map((one, i) => (
          <tr
            key={`${one.facility.call}${one.facility.frequencyMHz}`}
            className="border-t border-line font-mono"
          >
            <td>{i + 1}</td>
            <td>{one.facility.call}</td>
            <td>{one.facility.frequencyMHz.toFixed(3)}</td>
            <td>{one.bearingDeg === undefined ? '' : `${Math.round(one.bearingDeg)}°`}</td>
            <td>{wayInWords(one, operator.units)}</td>
            <td>{one.bestHour ?? ''}</td>
          </tr>
        ))}
      </Table>
      <div className="flex flex-wrap gap-2 print:hidden">
        <OperatorOnly>
          <Button
            disabled={isBusy}
            onClick={() => take(() => toMail(chosen, { from: operator.call, linkId }))}
          >
            Put on Mail’s list
          </Button>
          <ToTerminal chosen={chosen} take={take} isBusy={isBusy} />
        </OperatorOnly>
        <Button onClick={() => window.print()}>Print a card</Button>
        <Button
          onClick={() =>
            saveFile('channels.csv', 'text/csv', channelsCsv(chosen.map(({ facility }) => facility)))
          }
        >
          Channels as CSV
        </Button>
      </div>
      {done && (
        <p role="status" className="text-[14px] text-proved">
          {done}
        </p>
      )}
      {problem && <ProblemNote problem={problem} detail={Object.values(problem.fields ?? {}).join('; ')} />}
      <p className="text-[13px] text-ink3 print:hidden">
        Before you write channels into a radio: read its memory, and keep what was there. Everything here is
        kept in this browser too, for when there is no server.
      </p>
    </section>
  );
}

function ToTerminal({
  chosen,
  take,
  isBusy,
}: {
  chosen: readonly Ranked[];
  take: (task: () => Promise<string>) => void;
  isBusy: boolean;
}) {
  const saved = useLive((state) => state.terminal);
  const save = async (): Promise<string> => {
    const known = new Set(saved.nodes.map(({ call }) => call));
    const fresh = chosen.filter(({ facility }) => !known.has(facility.call)).map(nodeOf);
    if (fresh.length > 0)
      await command('PUT', '/terminal/settings', { ...saved, nodes: [...saved.nodes, ...fresh] });
    return `${fresh.length} of them are new among the terminal’s stations.`;
  };
  return (
    <Button disabled={isBusy} onClick={() => take(save)}>
      Save for the terminal
    </Button>
  );
}

const nodeOf = ({ facility }: Ranked): SavedNode => ({
  name: facility.call,
  call: facility.call,
  via: '',
  frequencyMHz: facility.frequencyMHz,
  kind:
    facility.kind === 'mailbox' || facility.kind === 'node' || facility.kind === 'mail gateway'
      ? facility.kind
      : 'station',
  note: facility.notes.slice(0, 200),
  endOfText: '/EX',
  charset: 'guess',
  escapes: 'strip',
});

/** These first, in this order; what the list had besides comes after them. */
async function toMail(chosen: readonly Ranked[], usual: Usual): Promise<string> {
  const { settings } = await command<MailDesk>('GET', '/mail');
  const gateways = chosen.filter(({ facility }) => facility.kind === 'mail gateway');
  if (gateways.length === 0) return 'There is no mail gateway among them.';
  const at = settings.profiles.findIndex(({ way }) => way === 'packet');
  const profile = settings.profiles[at] ?? newProfile(usual);
  const entries = gateways.map(({ facility, why }): GatewayEntry => ({
    call: facility.call,
    via: profile.gateways.find(({ call }) => call === facility.call)?.via ?? '',
    frequencyMHz: facility.frequencyMHz,
    note: why.slice(0, 120),
  }));
  const others = profile.gateways.filter(
    ({ call }) => call !== '' && !entries.some((one) => one.call === call),
  );
  const next = { ...profile, gateways: [...entries, ...others].slice(0, MOST_ENTRIES) };
  const profiles =
    at < 0 ? [...settings.profiles, next] : settings.profiles.map((one, i) => (i === at ? next : one));
  await command('PUT', '/mail/settings', { ...settings, profiles });
  return `${entries[0]?.call} is called first in “${next.name}”, ${entries.length} in all.`;
}

interface Usual {
  readonly from: string;
  readonly linkId: string | undefined;
}

const newProfile = ({ from, linkId }: Usual): MailProfile => ({
  ...(linkId === undefined ? {} : { linkId }),
  id: crypto.randomUUID(),
  name: 'Gateways',
  way: 'packet',
  from,
  gateways: [],
  exchanges: 'both',
  tries: 3,
});
