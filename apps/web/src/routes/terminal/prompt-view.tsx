import { useEffect, useState } from 'react';
import { concatOctets, fromHex, fromLatin1, toLatin1 } from '@mistpeak/core/bits/octets';
import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { ENTER_KISS, LEAVE_KISS, mayKey, TO_PROMPT } from '@mistpeak/core/tnc-console/commands';
import { callOfTnc, tellsOfMail, WHAT_IT_MEANS, whatComes } from '@mistpeak/core/tnc-console/what-comes';
import { command } from '../../api';
import { keepAsking } from '../../live/keep-asking';
import { useAttempt } from '../../live/attempt';
import { toBase64 } from '../../live/session-text';
import type { ConsoleSaid } from '../../live/slices/sessions';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { LinkField } from '../../pieces/link-field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { LockOf } from '../../pieces/transmit-lock';
import { useMainLink } from '../../live/main-link';

const NOTHING: readonly ConsoleSaid[] = [];
const octetsOf = (said: readonly ConsoleSaid[]): Uint8Array =>
  concatOctets(...said.map(({ hex }) => fromHex(hex) as Uint8Array));

/** A TNC that shows a command prompt, with or without a mailbox of its own: its port without KISS. */
export function PromptView() {
  const main = useMainLink();
  const [chosen, setChosen] = useState<string>();
  const linkId = chosen ?? main?.id ?? '';
  const link = useLive((state) => state.links.find(({ id }) => id === linkId));
  const view = useLive((state) => state.consoles.find((one) => one.linkId === linkId));
  const { problem, isBusy, attempt } = useAttempt();
  const isOpen = view !== undefined && view.phase !== 'closed';
  const isKissOpen = link !== undefined && link.phase !== 'closed';
  return (
    <div className="flex max-w-[60rem] flex-col gap-4">
      <p className="max-w-[46rem] text-[14.5px] text-ink2">
        Older TNCs answer commands on their serial port until they are put into KISS. Here you talk to that
        prompt: read its settings, enter and leave KISS, read its own mailbox. What can key the radio waits
        for the armed transmitter; what only reads does not.
      </p>
      <OperatorOnly>
        <div className="flex flex-wrap items-end gap-3">
          <div className="w-72">
            <LinkField label="TNC" value={linkId} error={undefined} set={setChosen} />
          </div>
          {isOpen ? (
            <Button
              kind="stop"
              disabled={isBusy}
              onClick={() => void attempt(() => command('DELETE', `/terminal/console/${linkId}`))}
            >
              Close the prompt
            </Button>
          ) : (
            <Button
              kind="main"
              disabled={isBusy || !link}
              onClick={() => void attempt(() => command('PUT', `/terminal/console/${linkId}`))}
            >
              Open the prompt
            </Button>
          )}
          {isKissOpen && !isOpen && (
            <Button
              disabled={isBusy}
              onClick={() => void attempt(() => command('POST', `/links/${linkId}/close`))}
            >
              Close its KISS link first
            </Button>
          )}
        </div>
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} />}
      {view?.trouble && !isOpen && <p className="text-[14px] text-look">{view.trouble}</p>}
      {isOpen && <Prompt linkId={linkId} />}
    </div>
  );
}

function useConsoleSaid(linkId: string): readonly ConsoleSaid[] {
  const said = useLive((state) => state.consoleSaid.get(linkId));
  const isAsked = said !== undefined;
  useEffect(() => {
    if (useLive.getState().consoleSaid.has(linkId)) return;
    return keepAsking<ConsoleSaid[]>(`/terminal/console/${linkId}`, (all) =>
      useLive.setState(({ consoleSaid }) => ({ consoleSaid: new Map(consoleSaid).set(linkId, all) })),
    );
  }, [linkId, isAsked]);
  return said ?? NOTHING;
}

function Prompt({ linkId }: { linkId: string }) {
  const said = useConsoleSaid(linkId);
  const link = useLive((state) => state.links.find(({ id }) => id === linkId));
  const lock = useLive((state) => state.locks.get(linkId));
  const me = useLive((state) => state.operator?.call ?? '');
  const [text, setText] = useState('');
  const { problem, attempt } = useAttempt();
  const lastMine = said.findLastIndex(({ side }) => side === 'mine');
  const since = said.slice(lastMine + 1);
  const typed = lastMine < 0 ? '' : toLatin1(octetsOf([said[lastMine] as ConsoleSaid]));
  const what = whatComes(octetsOf(since), typed);
  const theirs = toLatin1(octetsOf(said.filter(({ side }) => side === 'theirs')));
  const call = callOfTnc(theirs);
  const isOther = call !== undefined && callWithoutSsid(call) !== me;
  const send = (octets: Uint8Array): Promise<boolean> =>
    attempt(() => command('POST', `/terminal/console/${linkId}/type`, { base64: toBase64(octets) }));
  const line = (words: string): Promise<boolean> => send(fromLatin1(`${words}\r`));
  return (
    <>
      <p role="status" className="text-[14.5px]" data-what={what.kind}>
        {WHAT_IT_MEANS[what.kind]}
        {call !== undefined && ` Its call is ${call}.`}
        {tellsOfMail(theirs) && ' It says that mail waits.'}
      </p>
      {isOther && (
        <p role="alert" className="text-[14.5px] text-look">
          The TNC bears {call}, and the control operator here is {me}: set its call before it transmits.
        </p>
      )}
      <pre
        tabIndex={0}
        role="log"
        aria-label="What the TNC says"
        className="h-72 overflow-y-auto border-y-[1.5px] border-edge bg-raise px-3 py-2 font-mono text-[14px] whitespace-pre-wrap"
      >
        {said.map(({ side, hex }, i) => (
          <span key={i} className={side === 'mine' ? 'font-[680]' : ''}>
            {shownText(toLatin1(fromHex(hex) as Uint8Array))}
          </span>
        ))}
      </pre>
      <OperatorOnly>
        <form
          className="flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void line(text).then((went) => went && setText(''));
          }}
        >
          <input
            aria-label="Command for the TNC"
            value={text}
            autoComplete="off"
            autoCapitalize="off"
            autoCorrect="off"
            spellCheck={false}
            onChange={({ target }) => setText(target.value)}
            className="min-w-0 flex-1 rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono max-md:min-h-11"
          />
          <Button type="submit" kind="main">
            Send
          </Button>
        </form>
        {text !== '' && mayKey(text) && !lock?.armed && link && (
          <p className="flex flex-wrap items-center gap-3 text-[13.5px] text-look">
            That may key the radio or change the TNC: it waits for the armed transmitter.
            <LockOf link={link} />
          </p>
        )}
        <div className="flex flex-wrap gap-1.5">
          {(
            [
              ['Its call', 'MYCALL'],
              ['All settings', 'DISPLAY'],
              ['Heard', 'MHEARD'],
              ['Help', 'HELP'],
              ['Disconnect', 'D'],
            ] as const
          ).map(([name, words]) => (
            <Button key={words} onClick={() => void line(words)}>
              {name} <span className="font-mono text-ink3">{words}</span>
            </Button>
          ))}
          <Button onClick={() => setText('C ')}>
            Connect … <span className="font-mono text-ink3">C call</span>
          </Button>
          <Button onClick={() => setText('HELP ')}>
            Explain a parameter … <span className="font-mono text-ink3">HELP name</span>
          </Button>
          <Button onClick={() => void send(TO_PROMPT)}>
            To the prompt <span className="font-mono text-ink3">Ctrl-C</span>
          </Button>
          <Button onClick={() => void line(ENTER_KISS.join('\r'))}>
            Enter KISS <span className="font-mono text-ink3">{ENTER_KISS.join(', ')}</span>
          </Button>
          <Button onClick={() => void send(LEAVE_KISS)}>
            Leave KISS <span className="font-mono text-ink3">C0 FF C0</span>
          </Button>
        </div>
        {problem && <ProblemNote problem={problem} />}
      </OperatorOnly>
    </>
  );
}

const shownText = (text: string): string =>
  text.replace(/\r\n?/g, '\n').replace(/[\u0000-\u0008\u000b-\u001f\u007f-\u009f]/g, '·');
