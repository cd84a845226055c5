import { Ear, Plus } from 'lucide-react';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { LinkView } from '@mistpeak/contract/link';
import { useNow } from '../../live/now';
import { useLinkWords } from '../../pieces/use-link-words';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { TONE_TEXT } from '../../pieces/link-words';
import { OperatorOnly } from '../../pieces/operator-only';
import { ToneMark } from '../../pieces/tone-mark';
import { addressOf } from './address';
import { LinkDetail } from './link-detail';
import { LinkForm, type Found } from './link-form';
import { ModemPrograms } from './modem-programs';
import { PortFinder } from './port-finder';
import { isSection } from './sections';

/** The links to TNCs: state, what came in, what was not read, the settings and the bytes that carry them. */
export function TncPage() {
  const links = useLive((state) => state.links);
  const { link: chosen, section } = useParams();
  const navigate = useNavigate();
  const choose = (id: string | undefined): void => void navigate(id === undefined ? '/tnc' : `/tnc/${id}`);
  const link = links.find(({ id }) => id === chosen) ?? links[0];
  const [found, setFound] = useState<Found>();
  const isFinding = chosen === 'find';
  const isAdding = chosen === 'new' || (!link && !isFinding);
  const makeLink = (device: string, speed: number): void => {
    setFound({ kind: 'serial', device, speed });
    choose('new');
  };
  const add = (): void => {
    setFound(undefined);
    choose('new');
  };
  return (
    <div className="grid min-h-full md:grid-cols-[320px_1fr]">
      <section
        aria-label="Links"
        className="border-r border-line bg-sheet py-5 max-md:border-r-0 max-md:border-b"
      >
        <h1 className="px-6 max-md:px-4">TNC</h1>
        <p className="px-6 pt-0.5 pb-3 text-[13.5px] text-ink2 max-md:px-4">
          A link leads to one KISS TNC: a modem program on the network, a serial port, a device at this
          browser, or a sound card for which Mistpeak is the modem.
        </p>
        <ul>
          {links.map((one) => (
            <LinkRow
              key={one.id}
              link={one}
              isChosen={!isAdding && !isFinding && one.id === link?.id}
              choose={() => choose(one.id)}
            />
          ))}
        </ul>
        <div className="px-6 pt-4 max-md:px-4">
          <div className="flex flex-wrap gap-2">
            <Button onClick={add}>
              <Plus aria-hidden className="size-4" />
              Add a link
            </Button>
            <Button onClick={() => choose('find')}>
              <Ear aria-hidden className="size-4" />
              Find the port
            </Button>
          </div>
        </div>
        <OperatorOnly>
          <ModemPrograms />
        </OperatorOnly>
      </section>
      <div className="min-w-0 px-7 py-5 max-md:px-4">
        <OperatorOnly>
          {isFinding && <PortFinder take={makeLink} />}
          {isAdding && (
            <>
              <h2 className="text-[1.2rem]">Add a link</h2>
              <LinkForm
                key={found?.device ?? 'new'}
                {...(found ? { found } : {})}
                done={(added) => choose(added?.id)}
              />
            </>
          )}
          {link && !isAdding && !isFinding && (
            <LinkDetail key={link.id} link={link} section={isSection(section) ? section : 'link'} />
          )}
        </OperatorOnly>
      </div>
    </div>
  );
}

function LinkRow({ link, isChosen, choose }: { link: LinkView; isChosen: boolean; choose: () => void }) {
  const nowMs = useNow();
  const lastAtMs = useLive((state) => state.tallies.get(link.id)?.lastAtMs);
  const { word, tone } = useLinkWords(link, lastAtMs, nowMs);
  return (
    <li className="border-t border-line last:border-b">
      <button
        type="button"
        onClick={choose}
        aria-pressed={isChosen}
        className={`flex w-full flex-col px-6 py-2.5 text-left max-md:px-4 ${isChosen ? 'bg-raise shadow-[inset_3px_0_var(--provedfill)]' : 'hover:bg-raise'}`}
      >
        <b className="font-[640]">{link.settings.name}</b>
        <span className="font-mono text-[13px] text-ink2">{addressOf(link.settings)}</span>
        <span className={`flex items-center gap-1.5 text-[13.5px] ${TONE_TEXT[tone]}`}>
          <ToneMark tone={tone} />
          {word}
        </span>
      </button>
    </li>
  );
}
