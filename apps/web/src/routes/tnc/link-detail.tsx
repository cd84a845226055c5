import { useState } from 'react';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { kissParameterFrames } from '@mistpeak/core/kiss/parameters';
import { toHex } from '@mistpeak/core/bits/octets';
import { failureText } from '@mistpeak/contract/failures';
import { isLent, type LinkView } from '@mistpeak/contract/link';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { chooseLink, isOpen, useMainLink } from '../../live/main-link';
import { useLinkWords } from '../../pieces/use-link-words';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { TONE_TEXT } from '../../pieces/link-words';
import { chainName } from '../../live/saved-chain';
import { UsedBy } from '../../pieces/used-by';
import { ProblemNote } from '../../pieces/problem-note';
import { LockOf } from '../../pieces/transmit-lock';
import { SectionLinks } from '../../pieces/section-links';
import { ToneMark } from '../../pieces/tone-mark';
import { Table } from '../../pieces/table';
import { addressOf } from './address';
import { ConnectionTermsPanel } from './connection-terms';
import { ComputedAccess } from './computed-access';
import { LentDevice } from './lent-device';
import { LinkForm } from './link-form';
import { NotKiss } from './not-kiss';
import { SECTIONS, type Section } from './sections';
import { SharingPanel } from './sharing-panel';
import { TallyTable } from './tally-table';

/** One link: what it is and how it stands, and one part of what there is to set. */
export function LinkDetail({ link, section }: { link: LinkView; section: Section }) {
  const links = useLive((state) => state.links);
  const chains = useLive((state) => state.chains);
  const main = useMainLink();
  const [isChanging, setChanging] = useState(false);
  const { problem, attempt } = useAttempt();
  const nowMs = useNow();
  const tally = useLive((state) => state.tallies.get(link.id));
  const { word, tone, means } = useLinkWords(link, tally?.lastAtMs, nowMs);
  const act = (method: 'POST' | 'DELETE', path: string): void => {
    void attempt(() => command(method, `/links/${link.id}${path}`));
  };
  const holder = links.find(({ settings }) => settings.name === problem?.fields?.link);
  /** One press changes from one set-up to the other. */
  const takeOver = (): void => {
    if (holder)
      void attempt(async () => {
        await command('POST', `/links/${holder.id}/close`);
        await command('POST', `/links/${link.id}/open`);
      });
  };
  const isWanted = link.phase !== 'closed';
  return (
    <article className="flex max-w-[52rem] flex-col gap-5">
      <header className="flex flex-wrap items-start justify-between gap-3">
        <div>
          <h2 className="text-[1.2rem]">{link.settings.name}</h2>
          <p className="font-mono text-[13.5px] text-ink2">{addressOf(link.settings)}</p>
          <p className={`mt-1.5 flex items-center gap-1.5 font-[600] ${TONE_TEXT[tone]}`}>
            <ToneMark tone={tone} />
            <span aria-live="polite">{word}</span>
          </p>
          <p className="text-[13.5px] text-ink2">{means}</p>
          {link.standIn && (
            <p className="mt-1 text-[13.5px] text-ink2">
              The far end says that it is a <b className="text-ink">stand-in</b>: nothing sent here reaches a
              radio, and demo calls may be used.
            </p>
          )}
        </div>
        <div className="flex flex-wrap gap-2">
          {links.length > 1 && (
            <>
              {isOpen(link) && <LockOf link={link} />}
              <Button disabled={main?.id === link.id} onClick={() => chooseLink(link.id)}>
                {main?.id === link.id ? 'Worked with' : 'Work with this one'}
              </Button>
            </>
          )}
          {isWanted ? (
            <Button onClick={() => act('POST', '/close')}>Close the link</Button>
          ) : (
            <Button kind="main" onClick={() => act('POST', '/open')}>
              Open the link
            </Button>
          )}
          <Button onClick={() => setChanging(!isChanging)}>
            {isChanging ? 'Leave it as it is' : 'Change'}
          </Button>
          <Button kind="stop" onClick={() => act('DELETE', '')}>
            Remove
          </Button>
          <UsedBy names={chains.filter(({ linkId }) => linkId === link.id).map(chainName)} />
        </div>
      </header>
      {problem && <ProblemNote problem={problem} />}
      {problem?.reason === 'set-up-taken' && holder && (
        <Button className="self-start" onClick={takeOver}>
          Close {holder.settings.name} and open this one
        </Button>
      )}
      {link.phase === 'failed' && (
        <ProblemNote problem={failureText(link.failure ?? 'other')} detail={link.failureDetail} />
      )}
      {isChanging && <LinkForm link={link} done={() => setChanging(false)} />}
      <NotKiss link={link} />
      {isLent(link.settings) && <LentDevice link={link} />}
      <SectionLinks
        label="Parts of the link"
        sections={SECTIONS}
        current={section}
        addressOf={(id) => `/tnc/${link.id}/${id}`}
      />
      {section === 'link' && <TallyTable tally={tally} />}
      {section === 'channel' && (
        <>
          <Parameters link={link} />
          <ComputedAccess link={link} />
        </>
      )}
      {section === 'frames' && <ConnectionTermsPanel link={link} />}
      {section === 'sharing' && <SharingPanel link={link} />}
    </article>
  );
}

const PARAMETER_WORDS: Record<string, string> = {
  txdelay: 'TXDELAY: from key-down to valid data',
  persistence: 'Persistence: chance to send in a free slot',
  slottime: 'Slot time: wait between two tries',
  txtail: 'Tail: key held after the frame',
  fullduplex: 'Full duplex: off',
};

/** The parameters as they are sent on every opening, with the exact octets. */
function Parameters({ link }: { link: LinkView }) {
  const { txDelayMs, persistence, slotTimeMs, txTailMs } = link.settings;
  const values = [`${txDelayMs} ms`, String(persistence), `${slotTimeMs} ms`, `${txTailMs} ms`, 'off'];
  return (
    <section aria-label="KISS parameters" className="border-t-[1.5px] border-ink pt-2.5">
      <h3 className="text-[1.05rem] font-[650]">Channel access, sent on every opening</h3>
      <Table columns={['Parameter', 'Value', 'Octets on the wire']}>
        {kissParameterFrames(0, link.settings).map((frame, i) => (
          <tr key={frame.command} className="border-t border-line">
            <td className="py-1.5 pr-3">{PARAMETER_WORDS[frame.command]}</td>
            <td className="pr-3 font-mono whitespace-nowrap">{values[i]}</td>
            <td className="font-mono whitespace-nowrap">
              {toHex(encodeKiss(frame)).toUpperCase().replace(/../g, '$& ')}
            </td>
          </tr>
        ))}
      </Table>
    </section>
  );
}
