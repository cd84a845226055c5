import { useState } from 'react';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { parseListing } from '@mistpeak/core/mailbox-visit/listing';
import {
  COMMANDS,
  lettersExplained,
  recognisePrompt,
  type CommandLetter,
} from '@mistpeak/core/mailbox-visit/prompt';
import type { SessionView } from '@mistpeak/contract/sessions';
import { useAttempt } from '../../live/attempt';
import { say } from '../../live/session-text';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';

const USUAL: readonly CommandLetter[] = ['L', 'B', '?'];

/** A mailbox by its own words: what it can be told as buttons, with the literal command on each; its listing as a table. */
export function MailboxHelper({
  view,
  tail,
  endOfText,
}: {
  view: SessionView;
  tail: string;
  endOfText: string;
}) {
  const prompt = recognisePrompt(tail);
  const listing = parseListing(tail);
  const { problem, isBusy, attempt } = useAttempt();
  const [isWriting, setWriting] = useState(false);
  if (!prompt && !listing) return null;
  const shown = [...new Set([...(prompt?.letters ?? []), ...lettersExplained(tail)])];
  const hasDates = listing?.rows.some(({ date }) => date !== undefined) ?? false;
  const letters = shown.length === 0 ? USUAL : shown;
  const send = (text: string): Promise<boolean> => attempt(() => say(view.id, fromLatin1(`${text}\r`)));
  const isPlain = (letter: CommandLetter): boolean => !['R', 'K', 'S'].includes(letter);
  return (
    <section aria-label="Mailbox" className="flex flex-col gap-2 border-t border-line pt-2">
      <OperatorOnly>
        <div className="flex flex-wrap items-center gap-1.5">
          <span className="text-[13.5px] text-ink2">
            {prompt ? 'It waits for a command' : 'It listed'}
            {prompt?.memoryLeft !== undefined &&
              `; ${prompt.memoryLeft.toLocaleString('en')} octets free there`}
            :
          </span>
          {prompt &&
            letters.filter(isPlain).map((letter) => (
              <Button
                key={letter}
                disabled={isBusy}
                title={COMMANDS[letter].about}
                onClick={() => void send(COMMANDS[letter].literal)}
              >
                {COMMANDS[letter].name}{' '}
                <span className="font-mono text-ink3">{COMMANDS[letter].literal}</span>
              </Button>
            ))}
          {prompt && (shown.length === 0 || letters.includes('S')) && (
            <Button onClick={() => setWriting(!isWriting)} aria-expanded={isWriting}>
              Leave a message <span className="font-mono text-ink3">S</span>
            </Button>
          )}
        </div>
        {listing && listing.rows.length > 0 && (
          <div className="max-h-56 overflow-y-auto">
            <Table
              stacks
              columns={[
                'No',
                'From',
                'To',
                ...(hasDates ? ['Date'] : []),
                'Size',
                'Subject',
                { head: 'Do', isHidden: true },
              ]}
            >
              {listing.rows.map((row) => (
                <tr key={row.number} className="border-t border-line align-baseline">
                  <td className="py-1 pr-3 font-mono">{row.number}</td>
                  <td className="pr-3 font-mono">{row.from}</td>
                  <td className="pr-3 font-mono">{row.to}</td>
                  {hasDates && <td className="pr-3 text-ink2">{row.date}</td>}
                  <td className="pr-3 font-mono text-ink2">{row.size}</td>
                  <td className="w-full">{row.subject}</td>
                  <td className="py-1">
                    <div className="flex gap-1.5 whitespace-nowrap">
                      <Button disabled={isBusy || !prompt} onClick={() => void send(`R ${row.number}`)}>
                        Read <span className="font-mono text-ink3">R {row.number}</span>
                      </Button>
                      <Button disabled={isBusy || !prompt} onClick={() => void send(`K ${row.number}`)}>
                        Delete <span className="font-mono text-ink3">K {row.number}</span>
                      </Button>
                    </div>
                  </td>
                </tr>
              ))}
            </Table>
          </div>
        )}
        {listing?.isGuess && (
          <p className="text-[13px] text-ink3">It printed no heading: addressee before sender is a guess.</p>
        )}
        {isWriting && (
          <LeaveMessage
            endOfText={endOfText}
            isBusy={isBusy}
            send={async (lines) => {
              if (await send(lines.join('\r'))) setWriting(false);
            }}
          />
        )}
        {problem && <ProblemNote problem={problem} />}
      </OperatorOnly>
    </section>
  );
}

/** Written before it is sent: subject and text follow the command without waiting for each question. */
function LeaveMessage({
  endOfText,
  isBusy,
  send,
}: {
  endOfText: string;
  isBusy: boolean;
  send: (lines: readonly string[]) => Promise<void>;
}) {
  const [to, setTo] = useState('');
  const [subject, setSubject] = useState('');
  const [text, setText] = useState('');
  const box = 'rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 max-md:min-h-11';
  return (
    <form
      aria-label="Leave a message"
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send([`S ${to}`, subject, ...text.split('\n'), endOfText]);
      }}
    >
      <div className="flex flex-wrap gap-2">
        <input
          aria-label="To"
          placeholder="to: a call"
          value={to}
          onChange={({ target }) => setTo(target.value.toUpperCase())}
          className={`${box} w-32 font-mono`}
        />
        <input
          aria-label="Subject"
          placeholder="subject"
          value={subject}
          onChange={({ target }) => setSubject(target.value)}
          className={`${box} min-w-0 flex-1`}
        />
      </div>
      <textarea
        aria-label="Text"
        rows={4}
        value={text}
        onChange={({ target }) => setText(target.value)}
        className={`${box} font-mono`}
      />
      <div>
        <Button type="submit" kind="main" disabled={isBusy || to === '' || subject === ''}>
          Send it to the mailbox
        </Button>
      </div>
    </form>
  );
}
