import { ArrowRight, TriangleAlert } from 'lucide-react';
import { Fragment } from 'react';
import { Link } from 'react-router';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { toHex } from '@mistpeak/core/bits/octets';
import { describeReport, type Manner } from '@mistpeak/core/aprs/describe';
import type { PathMisuse } from '@mistpeak/core/digipeating/misuse';
import { formatMonitorText } from '@mistpeak/core/ax25/monitor-text';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { wayIn } from '@mistpeak/core/internet/way';
import { useLive } from '../live/store';
import { WayMark } from './way-mark';
import { useMainLink } from '../live/main-link';
import { readRecord } from '../live/views';
import { formatClock, formatSeconds } from './age';
import { onAir } from './channel-use';

/** The way that one frame took, hop by hop, what each entry of its path means, and its octets. */
export function FrameWay({
  record,
  manner,
  isShort = false,
}: {
  record: FrameRecord;
  manner: Manner;
  /** Over a map there is room for the hops only. */
  isShort?: boolean;
}) {
  const { view, raw } = readRecord(record);
  const link = useMainLink();
  if (isMalformed(view)) return <Unread record={record} reason={view.malformed} at={view.at} />;
  const { frame, report, path } = view;
  const { fromMs, toMs } = onAir(record, link);
  const ends =
    record.direction === 'sent' ? 'the TNC' : record.line === undefined ? 'me' : 'the internet side';
  return (
    <section aria-label="The way of this frame" className="flex flex-col gap-2">
      {!isShort && <h2 className="font-mono">{frame.source}</h2>}
      <ol className="flex flex-wrap items-center gap-1.5 font-mono text-[12.5px]" aria-label="Hops">
        {[frame.source, ...(record.direction === 'sent' ? [] : path.repeaters), ends].map((call, i, all) => (
          <Fragment key={`${call}-${i}`}>
            <li
              className={`rounded-md border-[1.5px] border-ink px-2 py-0.5 ${i > 0 && i < all.length - 1 ? 'bg-ink text-paper' : ''}`}
            >
              {call}
            </li>
            {i < all.length - 1 && <ArrowRight aria-hidden className="size-4" />}
          </Fragment>
        ))}
      </ol>
      <p className="text-[13.5px] text-ink2">
        {record.direction === 'sent'
          ? 'Handed to the TNC. '
          : record.line === undefined
            ? `${path.summary} `
            : `As it came in there: ${path.summary} `}
        {formatClock(record.atMs, 'utc')} UTC
        {record.line === undefined &&
          `, ${formatSeconds(toMs - fromMs)} on the air${record.direction === 'sent' ? ' with TXDELAY' : ''}`}
        .
      </p>
      {record.line !== undefined && <InternetWayIn path={frame.path.map(({ call }) => call)} />}
      {!isShort && path.entries.length > 0 && (
        <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 text-[13.5px]">
          {path.entries.map((hop, i) => (
            <Fragment key={i}>
              <dt className={`font-mono ${hop.used ? '' : 'text-ink3'}`}>
                {hop.call}
                {hop.used ? '*' : ''}
              </dt>
              <dd className="text-ink2">{hop.meaning}</dd>
            </Fragment>
          ))}
        </dl>
      )}
      <Misuse found={path.misuse} isShort={isShort} />
      {record.direction === 'heard' && record.line === undefined && (
        <Link to={`/path/packet?frame=${record.id}`} className="self-start text-[13.5px] underline">
          Why did it come as often as it did?
        </Link>
      )}
      {report && !isShort && <p className="text-[14px]">{describeReport(report, manner)}</p>}
      <p className="font-mono text-[12.5px] break-all text-ink2">{printable(formatMonitorText(frame))}</p>
      {!isShort && <Octets raw={raw} />}
    </section>
  );
}

/** Radio or internet: what the q construct says. */
function InternetWayIn({ path }: { path: readonly string[] }) {
  const licence = useLive((state) => state.operator?.call ?? '');
  const { radio, words, by } = wayIn(path, licence);
  const verdict = { yes: 'It was on the air', perhaps: 'Perhaps on the air', no: 'No proof of radio' }[radio];
  return (
    <p className="text-[14px]" data-testid="way-in">
      <WayMark byInternet={radio !== 'yes'} /> <b className="font-[620]">{verdict}:</b> {words}
      {by !== undefined && ` (${by})`}.
    </p>
  );
}

/** What in the path goes against the published rule: amber, and in words. */
function Misuse({ found, isShort }: { found: readonly PathMisuse[]; isShort: boolean }) {
  if (found.length === 0) return null;
  return (
    <ul
      aria-label="Against the rule"
      className="flex flex-col gap-1 border-l-[3px] border-look pl-3 text-[13.5px]"
    >
      {found.map(({ at, text, rule }) => (
        <li key={`${at} ${text}`}>
          <TriangleAlert aria-hidden className="mr-1.5 inline size-4 text-look" />
          <b className="font-[620]">{text}</b> {!isShort && <span className="text-ink2">{rule}</span>}
        </li>
      ))}
    </ul>
  );
}

function Unread({ record, reason, at }: { record: FrameRecord; reason: string; at: number }) {
  const { raw } = readRecord(record);
  return (
    <section aria-label="The way of this frame" className="flex flex-col gap-2">
      <h2>Not read</h2>
      <p className="text-[13.5px] text-ink2">
        {record.trouble}: {reason}
        {at > 0 ? `, at octet ${at}` : ''}. The octets are kept as they came, {raw.length} of them here.
      </p>
      <p className="font-mono text-[12.5px] break-all text-ink2">{printable(String.fromCharCode(...raw))}</p>
      <Octets raw={raw} />
    </section>
  );
}

function Octets({ raw }: { raw: Uint8Array }) {
  return (
    <details className="text-[13px]">
      <summary className="cursor-pointer text-ink2">{raw.length} octets in hex</summary>
      <p className="pt-1 font-mono text-[12.5px] break-all">{toHex(raw).replace(/../g, '$& ')}</p>
    </details>
  );
}

/** Control characters and octets above ASCII as a middle dot: seen, and harmless. */
export function printable(text: string): string {
  return text.replace(/[^\x20-\x7e]/g, '·');
}
