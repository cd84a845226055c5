import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { LinkView } from '@mistpeak/contract/link';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { describeLink, TONE_TEXT } from '../../pieces/link-words';
import { OperatorOnly } from '../../pieces/operator-only';
import { ToneMark } from '../../pieces/tone-mark';
import { addressOf } from './address';
import { LinkDetail } from './link-detail';
import { LinkForm } from './link-form';

/** The links to TNCs: state, what came in, what was not read, the settings and the bytes that carry them. */
export function TncPage() {
  const links = useLive((state) => state.links);
  const [chosen, choose] = useState<string>();
  const link = links.find(({ id }) => id === chosen) ?? links[0];
  const isAdding = chosen === 'new' || !link;
  return (
    <div className="grid min-h-full md:grid-cols-[320px_1fr]">
      <section
        aria-label="Links"
        className="border-r border-line bg-sheet py-5 max-md:border-r-0 max-md:border-b"
      >
        <h1 className="px-6 max-md:px-4">TNC</h1>
        <p className="px-6 pt-0.5 pb-3 text-[13.5px] text-ink2 max-md:px-4">
          A link leads to one KISS TNC: a modem program on the network, or a serial port of this machine.
        </p>
        <ul>
          {links.map((one) => (
            <LinkRow
              key={one.id}
              link={one}
              isChosen={!isAdding && one.id === link.id}
              choose={() => choose(one.id)}
            />
          ))}
        </ul>
        <div className="px-6 pt-4 max-md:px-4">
          <Button onClick={() => choose('new')}>
            <Plus aria-hidden className="size-4" />
            Add a link
          </Button>
        </div>
      </section>
      <div className="min-w-0 px-7 py-5 max-md:px-4">
        <OperatorOnly>
          {isAdding ? (
            <>
              <h2 className="text-[1.2rem]">Add a link</h2>
              <LinkForm key="new" done={(added) => choose(added?.id)} />
            </>
          ) : (
            <LinkDetail key={link.id} link={link} />
          )}
        </OperatorOnly>
      </div>
    </div>
  );
}

function LinkRow({ link, isChosen, choose }: { link: LinkView; isChosen: boolean; choose: () => void }) {
  const nowMs = useNow();
  const lastAtMs = useLive((state) => state.tallies.get(link.id)?.lastAtMs);
  const { word, tone } = describeLink(link, lastAtMs, nowMs);
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
