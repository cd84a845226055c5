import { useRef, useState, type KeyboardEvent } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { encodeText, type Charset } from '@mistpeak/core/terminal/charset';
import { oneTimePassword, parseChallenge, SHORTEST_PHRASE } from '@mistpeak/core/terminal/one-time-password';
import type { SessionView } from '@mistpeak/contract/sessions';
import { useAttempt } from '../../live/attempt';
import { say } from '../../live/session-text';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

/** Keys that a phone's keyboard lacks, as octets (ECMA-48; control characters as by common practice). */
const KEYS: readonly (readonly [name: string, text: string, about: string])[] = [
  ['Ctrl-C', '\u0003', 'interrupt'],
  ['Ctrl-D', '\u0004', 'end of input'],
  ['Ctrl-Z', '\u001a', 'end of a text'],
  ['Esc', '\u001b', 'escape'],
  ['Tab', '\t', 'complete'],
  ['↑', '\u001b[A', 'up'],
  ['↓', '\u001b[B', 'down'],
  ['←', '\u001b[D', 'left'],
  ['→', '\u001b[C', 'right'],
];

/** What is said next: line by line, or key by key. */
export function Typing({ view, charset }: { view: SessionView; charset: Charset }) {
  const [mode, setMode] = useState<'line' | 'key'>('line');
  const { problem, attempt } = useAttempt();
  const macros = useLive((state) => state.terminal.macros);
  const isConnected = view.phase === 'connected' || view.phase === 'timer recovery';
  const send = (text: string, isSecret = false): Promise<boolean> =>
    attempt(() => say(view.id, encodeText(text, charset).octets, isSecret));
  if (view.asked && isConnected)
    return (
      <OperatorOnly>
        <PasswordCaution view={view} send={send} />
        {problem && <ProblemNote problem={problem} />}
      </OperatorOnly>
    );
  return (
    <OperatorOnly>
      <div className="flex flex-col gap-2">
        {mode === 'line' ? (
          <LineInput view={view} charset={charset} send={send} isEnabled={isConnected} />
        ) : (
          <KeyInput send={send} isEnabled={isConnected} />
        )}
        <div role="toolbar" aria-label="Keys" className="flex flex-wrap gap-1.5">
          {KEYS.map(([name, text, about]) => (
            <button
              key={name}
              type="button"
              disabled={!isConnected}
              aria-label={`${name}, ${about}`}
              title={about}
              onClick={() => void send(text)}
              className="min-h-8 rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 font-mono text-[13px] disabled:opacity-50 max-md:min-h-11 max-md:min-w-11"
            >
              {name}
            </button>
          ))}
          <Button onClick={() => setMode(mode === 'line' ? 'key' : 'line')}>
            {mode === 'line' ? 'Send each key at once' : 'Send whole lines'}
          </Button>
        </div>
        {macros.length > 0 && (
          <div role="toolbar" aria-label="Macros" className="flex flex-wrap gap-1.5">
            {macros.map(({ name, text }) => (
              <Button
                key={name}
                disabled={!isConnected}
                title={text}
                onClick={() => void send(text.replace(/\n/g, '\r'))}
              >
                {name}
              </Button>
            ))}
          </div>
        )}
        {problem && <ProblemNote problem={problem} />}
      </div>
    </OperatorOnly>
  );
}

/** A line, ended by CR (common practice of packet, no source); what was typed before comes back with the arrow. */
function LineInput({
  view,
  charset,
  send,
  isEnabled,
}: {
  view: SessionView;
  charset: Charset;
  send: (text: string) => Promise<boolean>;
  isEnabled: boolean;
}) {
  const key = `typed ${view.id}`;
  const [text, setText] = useState(() => sessionStorage.getItem(key) ?? '');
  const [pasted, setPasted] = useState<string>();
  const before = useRef<string[]>([]);
  const at = useRef(0);
  const { lost } = encodeText(text, charset);
  const change = (next: string): void => {
    setText(next);
    sessionStorage.setItem(key, next);
  };
  const submit = async (): Promise<void> => {
    const line = text;
    change('');
    if (line !== '') before.current.push(line);
    at.current = before.current.length;
    if (!(await send(`${line}\r`))) change(line);
  };
  const recall = (event: KeyboardEvent, by: number): void => {
    event.preventDefault();
    at.current = Math.max(0, Math.min(before.current.length, at.current + by));
    change(before.current[at.current] ?? '');
  };
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <div className="flex gap-2">
        <input
          aria-label={`Say to ${view.peer}`}
          value={text}
          disabled={!isEnabled}
          autoComplete="off"
          autoCapitalize="off"
          autoCorrect="off"
          spellCheck={false}
          placeholder={isEnabled ? 'a line, then Enter' : 'as soon as it is connected'}
          onChange={({ target }) => change(target.value)}
          onKeyDown={(event) => {
            if (event.key === 'ArrowUp') recall(event, -1);
            if (event.key === 'ArrowDown') recall(event, 1);
          }}
          onPaste={(event) => {
            const clip = event.clipboardData.getData('text');
            if (!/[\r\n]./.test(clip)) return;
            event.preventDefault();
            setPasted(clip.replace(/\r\n?|\n/g, '\r'));
          }}
          className="min-w-0 flex-1 rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono disabled:opacity-60 max-md:min-h-11"
        />
        <Button type="submit" kind="main" disabled={!isEnabled}>
          Send
        </Button>
      </div>
      {lost.length > 0 && (
        <p role="status" className="text-[13.5px] text-look">
          {lost.join(' ')} cannot be sent in {charset}: each becomes a question mark.
        </p>
      )}
      {pasted !== undefined && (
        <PasteNote
          view={view}
          charset={charset}
          text={pasted}
          drop={() => setPasted(undefined)}
          send={() => void send(pasted).then((went) => went && setPasted(undefined))}
        />
      )}
    </form>
  );
}

/** Many lines take their time: it is told before. They wait in the session's own queue, as the channel takes them. */
function PasteNote({
  view,
  charset,
  text,
  send,
  drop,
}: {
  view: SessionView;
  charset: Charset;
  text: string;
  send: () => void;
  drop: () => void;
}) {
  const { octets } = encodeText(text, charset);
  return (
    <div role="alert" className="border-l-[3px] border-look pl-3 text-[14px]">
      <p>
        {text.split('\r').length} lines, {octets.length.toLocaleString('en')} octets: about{' '}
        {formatAge(timeMsOf(view, octets.length))} on this channel.
      </p>
      <div className="flex gap-2 pt-1.5">
        <Button kind="main" onClick={send}>
          Send them
        </Button>
        <Button onClick={drop}>Leave it</Button>
      </div>
    </div>
  );
}

/** By this session's own pace, where it has one. */
export function timeMsOf({ quality }: SessionView, octets: number): number {
  const { octetsPerSecond, asSetOctetsPerSecond } = quality.judgement;
  return (1000 * octets) / (octetsPerSecond ?? asSetOctetsPerSecond);
}

/** Each key as it is pressed, for login shells and editors on the far side. */
function KeyInput({ send, isEnabled }: { send: (text: string) => Promise<boolean>; isEnabled: boolean }) {
  return (
    <textarea
      aria-label="Every key is sent at once"
      placeholder="every key is sent at once; the far end echoes"
      rows={2}
      value=""
      disabled={!isEnabled}
      autoCapitalize="off"
      autoCorrect="off"
      spellCheck={false}
      onChange={({ target }) => void send(target.value.replace(/\n/g, '\r'))}
      onKeyDown={(event) => {
        const text = keyText(event);
        if (text === undefined) return;
        event.preventDefault();
        void send(text);
      }}
      className="w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono disabled:opacity-60"
    />
  );
}

const NAMED: Readonly<Record<string, string>> = {
  Enter: '\r',
  Backspace: '\u0008',
  Delete: '\u007f',
  Escape: '\u001b',
  ArrowUp: '\u001b[A',
  ArrowDown: '\u001b[B',
  ArrowRight: '\u001b[C',
  ArrowLeft: '\u001b[D',
};

/** Tab goes on to the next field, as everywhere: it has its own key below. */
function keyText({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): string | undefined {
  if (metaKey || altKey) return undefined;
  if (ctrlKey)
    return /^[a-z]$/i.test(key) ? String.fromCharCode(key.toUpperCase().charCodeAt(0) & 0x1f) : undefined;
  return NAMED[key];
}

/** A password goes in clear: it is said so, and sent only after that. A challenge is answered here, without the phrase. */
function PasswordCaution({
  view,
  send,
}: {
  view: SessionView;
  send: (text: string, isSecret?: boolean) => Promise<boolean>;
}) {
  const [word, setWord] = useState('');
  const [knows, setKnows] = useState(false);
  const asked = view.asked;
  const challenge = asked?.kind === 'one-time password' ? parseChallenge(asked.challenge) : undefined;
  const computed = challenge && !isMalformed(challenge) ? oneTimePassword(challenge, word) : undefined;
  const isReady = computed === undefined ? knows && word !== '' : word.length >= SHORTEST_PHRASE;
  return (
    <form
      aria-label="Password"
      className="flex flex-col gap-2 border-l-[3px] border-look pl-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) void send(`${computed ?? word}\r`, computed === undefined).then(() => setWord(''));
      }}
    >
      {computed === undefined ? (
        <p className="text-[14.5px] font-[620]">
          {view.peer} asks for a password. It goes in clear over the air: everybody who listens can read it,
          and use it.
        </p>
      ) : (
        <p className="text-[14.5px]">
          {view.peer} asks by a challenge (<span className="font-mono">{challengeText(asked)}</span>): the
          answer is computed here, counts once, and your pass phrase is not sent.
        </p>
      )}
      {challenge && isMalformed(challenge) && <p className="text-[14px] text-look">{challenge.malformed}</p>}
      <div className="flex flex-wrap items-end gap-2">
        <input
          type="password"
          aria-label={computed === undefined ? 'Password' : 'Pass phrase'}
          autoComplete="off"
          value={word}
          onChange={({ target }) => setWord(target.value)}
          className="w-64 rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono max-md:min-h-11"
        />
        <Button type="submit" kind="main" disabled={!isReady}>
          {computed === undefined ? 'Send it in clear' : 'Send the answer'}
        </Button>
        <Button onClick={() => void send('\r')}>Send an empty line instead</Button>
      </div>
      {computed === undefined ? (
        <label className="flex min-h-8 items-center gap-2.5 text-[14px] max-md:min-h-11">
          <input
            type="checkbox"
            className="size-4.5 shrink-0"
            checked={knows}
            onChange={({ target }) => setKnows(target.checked)}
          />
          I know, and this password is used nowhere else
        </label>
      ) : (
        word.length >= SHORTEST_PHRASE && (
          <p className="font-mono text-[14px] text-ink2">answer: {computed}</p>
        )
      )}
    </form>
  );
}

const challengeText = (asked: SessionView['asked']): string =>
  asked?.kind === 'one-time password' ? asked.challenge : '';
