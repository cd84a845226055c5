import { memo, useDeferredValue, useMemo, useState, type KeyboardEvent } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { describeReport, type Manner } from '@mistpeak/core/aprs/describe';
import type { Ax25Frame } from '@mistpeak/core/ax25/frame';
import { describePid } from '@mistpeak/core/ax25/pid';
import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { isScrap, type FrameRecord } from '@mistpeak/contract/frame';
import type { OperatorView } from '@mistpeak/contract/operator';
import { readRecord } from '../../live/views';
import { formatClock, formatDay } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { printable } from '../../pieces/frame-way';
import { ProblemNote } from '../../pieces/problem-note';
import { WayMark } from '../../pieces/way-mark';
import { isNothingAsked, LogFilter, NO_FILTER, type WrittenFilter } from './log-filter';
import { groupsOf, isSameGroup, useLogRows, wayOfCopy, type LogGroup } from './log-rows';

interface LogProps {
  readonly frames: readonly FrameRecord[];
  readonly operator: OperatorView;
  readonly selected: string | undefined;
  readonly select: (record: FrameRecord) => void;
}

/** Every frame, newest first, own ones marked; copies of one packet folded; a filter looks in all that is kept. */
export function FrameLog({ frames, operator, selected, select }: LogProps) {
  const [written, setFilter] = useState<WrittenFilter>(NO_FILTER);
  const [folds, setFolds] = useState(true);
  const filter = useDeferredValue(written);
  const { rows, isSearching, isComplete, lookedBackToMs, problem, further } = useLogRows(
    frames,
    filter,
    operator,
  );
  const groups = useMemo(() => groupsOf(rows, folds), [rows, folds]);
  const isFiltered = !isNothingAsked(filter);
  return (
    <section aria-label="Log" className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-baseline gap-3 px-6 pt-3 pb-1.5 max-md:px-4">
        <h2>Log</h2>
        <span role="status" className="text-[13px] text-ink3">
          {isFiltered
            ? isSearching
              ? 'looking through all that is kept …'
              : `${rows.length} found${isComplete ? ' in all that is kept' : ''}, newest first`
            : `${rows.length} frames at hand, newest first`}
        </span>
      </div>
      <LogFilter filter={written} set={setFilter} folds={folds} setFolds={setFolds} />
      {problem && <ProblemNote problem={problem} />}
      {rows.length === 0 && !isSearching && (
        <p className="px-6 py-4 text-ink2">
          {isFiltered ? 'Nothing fits.' : 'Nothing has been heard yet. Open a link on the TNC page.'}
        </p>
      )}
      <div className="min-h-0 flex-1 overflow-y-auto pb-4">
        <LogRows groups={groups} operator={operator} selected={selected} select={select} />
        {!isComplete && (
          <div className="flex flex-wrap items-center gap-3 px-6 py-2 max-md:px-4">
            <Button disabled={isSearching} onClick={further}>
              Look further back
            </Button>
            {lookedBackToMs !== undefined && (
              <span className="text-[13px] text-ink3">looked back to {formatDay(lookedBackToMs)}</span>
            )}
          </div>
        )}
      </div>
    </section>
  );
}

/** Packets as rows, one of them selected. */
export function LogRows({
  groups,
  operator,
  selected,
  select,
}: Omit<LogProps, 'frames'> & { readonly groups: readonly LogGroup[] }) {
  return (
    <ol onKeyDown={moveFocus}>
      {groups.map((group) => (
        <LogRow
          key={group.first.id}
          group={group}
          operator={operator}
          selected={group.copies.some(({ id }) => id === selected) ? selected : undefined}
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

/** Drawn again only when its own frames change: a busy channel adds a row, it does not redraw two hundred. */
const LogRow = memo(
  function LogRow({
    group,
    operator,
    selected,
    select,
  }: {
    group: LogGroup;
    operator: OperatorView;
    /** One of its copies. */
    selected: string | undefined;
    select: (record: FrameRecord) => void;
  }) {
    const [isOpen, setOpen] = useState(false);
    const { first, copies } = group;
    const isBack = copies.some((copy) => isOwn(copy, operator) && copy.direction === 'heard');
    return (
      // A row out of sight costs neither layout nor paint.
      <li className="[contain-intrinsic-size:auto_26px] [content-visibility:auto]">
        <Entry
          record={first}
          operator={operator}
          isSelected={selected !== undefined}
          isBack={isBack && first.direction === 'sent'}
          select={select}
        />
        {copies.length > 1 && (
          <details
            className="pl-[104px] text-[12.5px] text-ink3 max-md:pl-6"
            onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
          >
            <summary className="w-fit cursor-pointer font-mono max-md:min-h-11">
              {copies.length} copies: {copies.map(wayOfCopy).join(', ')}
            </summary>
            {isOpen &&
              copies.map((copy) => (
                <Entry
                  key={copy.id}
                  record={copy}
                  operator={operator}
                  isSelected={copy.id === selected}
                  isBack={false}
                  select={select}
                />
              ))}
          </details>
        )}
      </li>
    );
  },
  (before, after) =>
    before.selected === after.selected &&
    before.operator === after.operator &&
    before.select === after.select &&
    isSameGroup(before.group, after.group),
);

const isOwn = (record: FrameRecord, { call }: OperatorView): boolean => {
  const { view } = readRecord(record);
  return !isMalformed(view) && callWithoutSsid(view.frame.source) === call;
};

function Entry({
  record,
  operator,
  isSelected,
  isBack,
  select,
}: {
  record: FrameRecord;
  operator: OperatorView;
  isSelected: boolean;
  /** It is ours, and a copy of it was heard. */
  isBack: boolean;
  select: (record: FrameRecord) => void;
}) {
  const { view } = readRecord(record);
  const isOurs = isOwn(record, operator);
  return (
    <button
      type="button"
      onClick={() => select(record)}
      aria-pressed={isSelected}
      className={`grid w-full grid-cols-[72px_1fr] gap-x-2 px-6 py-[3px] text-left font-mono text-[13px] text-ink max-md:min-h-11 max-md:px-4 ${isSelected ? 'bg-raise shadow-[inset_3px_0_var(--provedfill)]' : 'hover:bg-sheet'}`}
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
        {(isBack || (isOurs && record.direction === 'heard')) && (
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
  );
}

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
