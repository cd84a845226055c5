import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { CHARSETS, decodeText, type Charset } from '@mistpeak/core/terminal/charset';
import { interpretEscapes, stripEscapes, type Colour, type Style } from '@mistpeak/core/terminal/escapes';
import { standingOf, type Line } from '@mistpeak/core/terminal/transcript';
import type { SessionView } from '@mistpeak/contract/sessions';
import { formatClock } from '../../pieces/age';
import { Button } from '../../pieces/button';

export interface ScreenLook {
  readonly charset: 'guess' | Charset;
  readonly escapes: 'strip' | 'interpret';
  readonly showsMine: boolean;
}

/** More lines than this are shown when they are asked for. */
const SHOWN_LINES = 600;

/** The inks of this light for the far end's colours: told apart, and legible in all three. */
const INKS: Readonly<Record<Colour, string>> = {
  black: 'var(--ink3)',
  red: 'var(--stop)',
  green: 'var(--proved)',
  yellow: 'var(--look)',
  blue: 'var(--r4)',
  magenta: 'var(--r4)',
  cyan: 'var(--ink2)',
  white: 'var(--ink)',
};

/** A line of theirs in the left margin, of mine in the right one, with how far it has come. */
export function Screen({
  view,
  lines,
  charset,
  look,
  setLook,
}: {
  view: SessionView;
  lines: readonly Line[];
  charset: Charset;
  look: ScreenLook;
  setLook: (look: ScreenLook) => void;
}) {
  const [wanted, setWanted] = useState('');
  const [shows, setShows] = useState(SHOWN_LINES);
  const box = useRef<HTMLDivElement>(null);
  const follows = useRef(true);
  const visible = lines.filter(
    (line) =>
      (look.showsMine || line.side === 'theirs') &&
      (wanted === '' || plain(line, charset).toLowerCase().includes(wanted.toLowerCase())),
  );
  const last = visible.slice(-shows);
  useLayoutEffect(() => {
    if (follows.current && box.current) box.current.scrollTop = box.current.scrollHeight;
  }, [lines, view.confirmedOctets]);
  return (
    <section aria-label="Transcript" className="flex min-w-0 flex-col gap-2">
      <LookBar
        copy={() =>
          void navigator.clipboard.writeText(
            visible.map((line) => `${line.side === 'mine' ? '> ' : ''}${plain(line, charset)}`).join('\n'),
          )
        }
        look={look}
        charset={charset}
        setLook={setLook}
        wanted={wanted}
        setWanted={setWanted}
      />
      <div
        ref={box}
        tabIndex={0}
        role="log"
        aria-label={`What was said with ${view.peer}`}
        onScroll={({ currentTarget: { scrollTop, clientHeight, scrollHeight } }) => {
          follows.current = scrollHeight - scrollTop - clientHeight < 40;
        }}
        className="h-[max(12rem,calc(100dvh-33rem))] overflow-y-auto border-y-[1.5px] border-edge bg-raise py-2 max-md:h-[36dvh]"
      >
        {visible.length > last.length && (
          <p className="px-3 pb-2">
            <Button onClick={() => setShows(shows + 2000)}>
              Show {Math.min(2000, visible.length - last.length)} earlier lines
            </Button>
          </p>
        )}
        {last.length === 0 && (
          <p className="px-3 text-[14px] text-ink2">
            {wanted === '' ? 'Nothing was said yet.' : 'No line has that.'}
          </p>
        )}
        {last.map((line) => (
          <LineRow
            key={`${line.side} ${line.fromOctet} ${line.atMs}`}
            view={view}
            line={line}
            charset={charset}
            look={look}
          />
        ))}
      </div>
    </section>
  );
}

function LookBar({
  look,
  charset,
  setLook,
  wanted,
  setWanted,
  copy,
}: {
  copy: () => void;
  look: ScreenLook;
  charset: Charset;
  setLook: (look: ScreenLook) => void;
  wanted: string;
  setWanted: (text: string) => void;
}) {
  const [isShown, show] = useState(false);
  const box =
    'rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 text-[13.5px] text-ink max-md:min-h-11';
  return (
    <>
      <div className="md:hidden">
        <Button aria-expanded={isShown} onClick={() => show(!isShown)}>
          Find, letters, colours
        </Button>
      </div>
      <div
        className={`flex flex-wrap items-center gap-x-3 gap-y-2 text-[13.5px] ${isShown ? '' : 'max-md:hidden'}`}
      >
        <input
          type="search"
          aria-label="Find in what was said"
          placeholder="find"
          value={wanted}
          onChange={({ target }) => setWanted(target.value)}
          className={`${box} w-36`}
        />
        <select
          aria-label="Letters"
          value={look.charset}
          onChange={({ target }) => setLook({ ...look, charset: target.value as ScreenLook['charset'] })}
          className={box}
        >
          <option value="guess">letters: {charset}, guessed</option>
          {CHARSETS.map((one) => (
            <option key={one} value={one}>
              letters: {one}
            </option>
          ))}
        </select>
        <select
          aria-label="Screen commands"
          value={look.escapes}
          onChange={({ target }) => setLook({ ...look, escapes: target.value as ScreenLook['escapes'] })}
          className={box}
        >
          <option value="strip">without their colours</option>
          <option value="interpret">with their colours</option>
        </select>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="size-4.5 shrink-0"
            checked={look.showsMine}
            onChange={({ target }) => setLook({ ...look, showsMine: target.checked })}
          />
          show what I send
        </label>
        <Button onClick={copy}>Copy</Button>
      </div>
    </>
  );
}

const plain = ({ octets }: Line, charset: Charset): string => stripEscapes(decodeText(octets, charset));

function LineRow({
  view,
  line,
  charset,
  look,
}: {
  view: SessionView;
  line: Line;
  charset: Charset;
  look: ScreenLook;
}) {
  const isMine = line.side === 'mine';
  const text = decodeText(line.octets, charset);
  return (
    <div
      data-side={line.side}
      className={`grid grid-cols-[4.4rem_minmax(0,1fr)_6.2rem] gap-x-2 px-3 text-[14px] leading-[1.5] max-md:grid-cols-[minmax(0,1fr)_4.6rem] ${isMine ? 'bg-sheet' : ''}`}
    >
      <span className="pt-[1px] font-mono text-[12px] text-ink3 max-md:hidden">
        {formatClock(line.atMs, 'utc')}
      </span>
      <span className={`font-mono break-words whitespace-pre-wrap ${isMine ? 'pl-6 font-[640]' : ''}`}>
        {isMine && (
          <span aria-hidden className="-ml-5 inline-block w-5 text-ink3">
            ›
          </span>
        )}
        <span className="sr-only">{isMine ? 'I said: ' : `${view.peer} said: `}</span>
        {look.escapes === 'interpret' ? <Styled text={text} /> : stripEscapes(text)}
      </span>
      <span className="pt-[1px] text-right text-[12px]">
        {isMine && <Standing view={view} line={line} />}
      </span>
    </div>
  );
}

function Standing({ view, line }: { view: SessionView; line: Line }): ReactNode {
  const end = line.fromOctet + line.octets.length;
  const isLost = view.lost.some(({ fromOctet, toOctet }) => end > fromOctet && line.fromOctet < toOctet);
  if (isLost) return <span className="text-stop">✕ lost</span>;
  switch (standingOf(line, view.sentOctets, view.confirmedOctets)) {
    case 'acknowledged':
      return <span className="text-proved">✓ has it</span>;
    case 'sent':
      return <span className="text-look">… on its way</span>;
    case 'not sent':
      return <span className="text-ink3">◦ waits</span>;
  }
}

function Styled({ text }: { text: string }) {
  return interpretEscapes(text).stretches.map(({ text: part, style }, i) => (
    <span key={i} style={inked(style)}>
      {part}
    </span>
  ));
}

const inked = ({ colour, isBold, isUnderlined }: Style) => ({
  ...(colour ? { color: INKS[colour] } : {}),
  ...(isBold ? { fontWeight: 700 } : {}),
  ...(isUnderlined ? { textDecoration: 'underline' } : {}),
});
