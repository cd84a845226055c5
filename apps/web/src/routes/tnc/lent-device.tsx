import type { LinkKind, LinkView } from '@mistpeak/contract/link';
import { lend, takeBack, useLending, whyCannotLend } from '../../live/lending';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { ToneMark } from '../../pieces/tone-mark';

const CHOOSE: Partial<Record<LinkKind, string>> = {
  'page-bluetooth': 'Choose the Bluetooth TNC',
  'page-sound': 'Open the sound card',
};

/** The device at this browser that a link uses: asked for, lent, taken back. */
export function LentDevice({ link }: { link: LinkView }) {
  const lending = useLending((state) => state.lendings.get(link.id));
  const trouble = useLending((state) => state.troubles.get(link.id));
  const cannot = whyCannotLend(link.settings.kind);
  return (
    <section aria-label="Device at this browser" className="border-t-[1.5px] border-ink pt-2.5">
      <h3 className="text-[1.05rem] font-[650]">The device at this browser</h3>
      <p className="text-[13.5px] text-ink2">
        {link.settings.kind === 'page-sound'
          ? 'This page is the modem, and hands packets to Mistpeak. While Mistpeak is away it goes on hearing, and hands over later. '
          : 'This page forwards the octets; everything else happens at Mistpeak. '}
        Keep the page open and the screen on: a phone that sleeps stops it, and it goes on by itself when it
        wakes.
      </p>
      {cannot && !lending && (
        <div className="pt-2">
          <ProblemNote problem={cannot} />
        </div>
      )}
      {lending && (
        <p className="flex items-center gap-1.5 pt-1.5 font-[600]">
          <ToneMark tone={lending.isForwarding ? 'proved' : 'look'} />
          <span aria-live="polite">
            {lending.name} {lending.isForwarding ? 'is lent' : 'waits for Mistpeak'}
          </span>
          <span className="font-mono text-[13px] font-[400] text-ink2">
            {lending.received} octets in, {lending.sent} out
          </span>
        </p>
      )}
      {trouble && (
        <p role="alert" className="pt-1 text-[13.5px] text-look">
          The browser says: {trouble}
        </p>
      )}
      <div className="pt-2">
        {lending ? (
          <Button onClick={() => void takeBack(link.id)}>Take the device back</Button>
        ) : (
          <Button kind="main" disabled={cannot !== undefined} onClick={() => void lend(link)}>
            {CHOOSE[link.settings.kind] ?? 'Choose the port'}
          </Button>
        )}
      </div>
    </section>
  );
}
