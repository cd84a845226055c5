import { QRCodeSVG } from 'qrcode.react';
import type { PairingView } from '@mistpeak/contract/access';
import { useNow } from '../live/now';
import { formatAge } from './age';

/** A code that lets one device in, once, as a picture and to type. to: the page on which it arrives. */
export function PairingPicture({
  pairing: { code, role, expiresAtMs, addresses, fingerprint },
  to = '',
}: {
  pairing: PairingView;
  to?: string;
}) {
  const nowMs = useNow();
  const leftMs = expiresAtMs - nowMs;
  if (leftMs <= 0) return <p className="text-[14px] text-look">The code has run out. Make another.</p>;
  const address = addresses[0] ?? '';
  return (
    <div className="flex flex-wrap gap-5">
      <QRCodeSVG
        value={`${address}/pair${to === '' ? '' : `?to=${to}`}#${code}`}
        size={176}
        marginSize={3}
        bgColor="var(--codelight)"
        fgColor="var(--codedark)"
        title={`Opens ${address} with the pairing code`}
      />
      <div className="min-w-0 flex-1 text-[14px]">
        <p className="font-mono text-[1.35rem] font-[600] tracking-wide">
          {code.slice(0, 5)} {code.slice(5)}
        </p>
        <p className="text-ink2">
          For one {role}, once; {formatAge(leftMs)} left. Point the phone’s camera at the picture, or open the
          address and type the code.
        </p>
        <p className="pt-2 text-[12.5px] text-ink3">
          The authority’s fingerprint, to compare:{' '}
          <span className="font-mono break-all">{fingerprint.slice(0, 47)} …</span>
        </p>
      </div>
    </div>
  );
}
