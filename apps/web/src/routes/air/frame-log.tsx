import { memo, useDeferredValue, useState, type KeyboardEvent } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { describeReport, type Manner } from '@mistpeak/core/aprs/describe';
import type { Ax25Frame } from '@mistpeak/core/ax25/frame';
import { describePid } from '@mistpeak/core/ax25/pid';
import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { isScrap, type FrameRecord } from '@mistpeak/contract/frame';
import type { OperatorView } from '@mistpeak/contract/operator';
import { readRecord } from '../../live/views';
import { formatClock } from '../../pieces/age';
import { printable } from '../../pieces/frame-way';
import { WayMark } from '../../pieces/way-mark';

const ROWS = 200;

interface LogProps {
  readonly frames: readonly FrameRecord[];
  readonly operator: OperatorView;
  readonly selected: string | undefined;
  readonly select: (id: string) => void;
}

/** Every frame, newest first, own ones marked. */
export function FrameLog({ frames, operator, selected, select }: LogProps) {
  const [wanted, setWanted] = useState('');
  const filter = useDeferredValue(wanted.trim().toUpperCase());
  const rows = frames
    .filter((frame) => filter === '' || lineOf(frame, operator).toUpperCase().includes(filter))
    .slice(-ROWS)
    .reverse();
  return (
    <section aria-label="Log" className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-baseline gap-3 px-6 pt-3 pb-1.5 max-md:px-4">
        <h2>Log</h2>
        <span className="text-[13px] text-ink3">{frames.length} frames at hand, newest first</span>
        <label className="mr-32 ml-auto text-[13px] text-ink2">
          Show only{' '}
          <input
            value={wanted}
            onChange={({ target }) => setWanted(target.value)}
            placeholder="call or word"
            className="ml-1 w-36 rounded-md border border-edge bg-raise px-2 py-0.5 font-mono text-ink placeholder:text-ink3 max-md:min-h-11"
          />
        </label>
      </div>
      {rows.length === 0 ? (
        <p className="px-6 py-4 text-ink2">
          {filter === ''
            ? 'Nothing has been heard yet. Open a link on the TNC page.'
            : 'No frame at hand fits.'}
        </p>
      ) : (
        <div className="min-h-0 flex-1 overflow-y-auto pb-4">
          <LogRows rows={rows} operator={operator} selected={selected} select={select} />
        </div>
      )}
    </section>
  );
}

/** Records as rows, one of them selected. */
export function LogRows({
  rows,
  operator,
  selected,
  select,
}: Omit<LogProps, 'frames'> & { readonly rows: readonly FrameRecord[] }) {
  return (
    <ol onKeyDown={moveFocus}>
      {rows.map((record) => (
        <LogRow
          key={record.id}
          record={record}
          operator={operator}
          isSelected={record.id === selected}
          select={select}
        />
      ))}
    </ol>
  );
}

/** Up and down go from row to row. */
function moveFocus(event: KeyboardEvent<HTMLOListElement>): void {
  if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
  const row = document.activeElement?.closest('li');
  const next = event.key === 'ArrowDown' ? row?.nextElementSibling : row?.previousElementSibling;
  const button = next?.querySelector('button');
  if (!button) return;
  event.preventDefault();
  button.focus();
}

/** Drawn again only when its own frame changes: a busy channel adds a row, it does not redraw two hundred. */
const LogRow = memo(function LogRow({
  record,
  operator,
  isSelected,
  select,
}: {
  record: FrameRecord;
  operator: OperatorView;
  isSelected: boolean;
  select: (id: string) => void;
}) {
  const { view } = readRecord(record);
  const isOwn = !isMalformed(view) && callWithoutSsid(view.frame.source) === operator.call;
  return (
    // A row out of sight costs neither layout nor paint.
    <li className="[contain-intrinsic-size:auto_26px] [content-visibility:auto]">
      <button
        type="button"
        onClick={() => select(record.id)}
        aria-pressed={isSelected}
        className={`grid w-full grid-cols-[72px_1fr] gap-x-2 px-6 py-[3px] text-left font-mono text-[13px] max-md:min-h-11 max-md:px-4 ${isSelected ? 'bg-raise shadow-[inset_3px_0_var(--provedfill)]' : 'hover:bg-sheet'}`}
      >
        <time className="text-ink3" dateTime={new Date(record.atMs).toISOString()}>
          {formatClock(record.atMs, 'utc')}
        </time>
        <span className="min-w-0 break-words">
          {record.direction === 'sent' && <Tag>sent</Tag>}
          {record.line !== undefined && (
            <span className="mr-2 rounded-[3px] border border-edge px-1 font-sans text-ink2">
              <WayMark byInternet /> internet
            </span>
          )}
          {isOwn && record.direction === 'heard' && (
            <Tag>{record.line === undefined ? 'own, come back' : 'own, on the internet side'}</Tag>
          )}
          {isMalformed(view) ? (
            <UnreadLine record={record} reason={view.malformed} />
          ) : (
            <Line record={record} manner={operator} />
          )}
          {!record.stored && (
            <span className="text-look" title="The database does not have it yet">
              {' '}
              · not stored yet
            </span>
          )}
        </span>
      </button>
    </li>
  );
});

function Tag({ children }: { children: string }) {
  return <span className="mr-2 rounded-[3px] bg-provedfill px-1.5 font-[600] text-onproved">{children}</span>;
}

function Line({ record, manner }: { record: FrameRecord; manner: Manner }) {
  const { view } = readRecord(record);
  if (isMalformed(view)) return null;
  const { frame, report } = view;
  return (
    <>
      <b className="font-[640]">{frame.source}</b>
      <span className="text-ink3"> › {frame.destination}</span>
      {frame.path.map(({ call, used }, i) => (
        <span key={i}>
          {' '}
          {used ? (
            <span className="rounded-[3px] bg-ink px-1 text-paper">{call}</span>
          ) : (
            <span className="text-ink3 whitespace-nowrap">{call}</span>
          )}
        </span>
      ))}{' '}
      <span className="font-sans text-ink2">
        {report ? describeReport(report, manner) : describeFrame(frame)}
      </span>
    </>
  );
}

/** A frame of a connection, or of another protocol. */
function describeFrame({ control, pid, info }: Ax25Frame): string {
  const protocol = pid === undefined ? '' : `, ${describePid(pid)}`;
  return `${control.kind} frame${protocol}${info.length > 0 ? `, ${info.length} octets` : ''}`;
}

function UnreadLine({ record, reason }: { record: FrameRecord; reason: string }) {
  const { raw } = readRecord(record);
  return (
    <>
      <span className="font-sans font-[620] text-look">{isScrap(record) ? 'discarded' : 'not read'}</span>{' '}
      <span className="font-sans text-ink2">
        {record.trouble}
        {isScrap(record) ? '' : `: ${reason}`}
      </span>{' '}
      <span className="text-ink3">
        {printable(record.line?.slice(0, 60) ?? String.fromCharCode(...raw.subarray(0, 60)))}
      </span>
    </>
  );
}

/** What the filter looks in. */
function lineOf(record: FrameRecord, manner: Manner): string {
  const { view } = readRecord(record);
  if (isMalformed(view)) return `${record.trouble ?? ''} ${view.malformed}`;
  const { frame, report } = view;
  const calls = [frame.source, frame.destination, ...frame.path.map(({ call }) => call)].join(' ');
  return `${calls} ${report ? describeReport(report, manner) : frame.control.kind}`;
}
