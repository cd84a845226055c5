import { useState } from 'react';
import { Link } from 'react-router';
import type { LetterView } from '@mistpeak/contract/mailbox';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { MailboxRulesForm } from './mailbox-rules-form';

/** The called side: what others left here, who called, and by which rules. Reading here needs no radio. */
export function OwnMailboxView() {
  const { letters, halfReceived, usedOctets, closedBecause, settings } = useLive((state) => state.mailbox);
  const me = useLive((state) => state.operator?.call ?? '');
  const [chosen, setChosen] = useState<number>();
  const letter = letters.find(({ number }) => number === chosen);
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="flex min-w-0 flex-col gap-5">
        <p role="status" className="text-[14.5px]">
          {closedBecause === undefined
            ? `${me}-${settings.ssid} takes calls.`
            : `Nobody can call it now: ${closedBecause}.`}{' '}
          <span className="text-ink2">
            {usedOctets.toLocaleString('en')} of {settings.memoryOctets.toLocaleString('en')} octets are used.
            It connects nobody onward.
          </span>
        </p>
        <section aria-label="Letters" className="border-t-[1.5px] border-ink pt-2">
          <h2>Letters</h2>
          {letters.length === 0 && <p className="py-1 text-[14px] text-ink2">None yet.</p>}
          <ul>
            {[...letters].reverse().map((one) => (
              <LetterRow
                key={one.number}
                letter={one}
                me={me}
                isChosen={one.number === chosen}
                choose={() => setChosen(one.number === chosen ? undefined : one.number)}
              />
            ))}
          </ul>
        </section>
        {halfReceived.length > 0 && <HalfReceived />}
        <WriteLetterForm
          key={letter?.number ?? 0}
          to={letter && letter.from !== me ? letter.from : ''}
          about={letter?.subject}
        />
        <Callers />
      </div>
      <MailboxRulesForm />
    </div>
  );
}

function LetterRow({
  letter,
  me,
  isChosen,
  choose,
}: {
  letter: LetterView;
  me: string;
  isChosen: boolean;
  choose: () => void;
}) {
  const { problem, isBusy, attempt } = useAttempt();
  const nowMs = useNow(10_000);
  const isNew = !letter.isRead && letter.to === me;
  const open = (): void => {
    choose();
    if (isNew && !isChosen) void attempt(() => command('PUT', `/mailbox/letters/${letter.number}/read`));
  };
  return (
    <li className="border-t border-line py-1.5 first:border-t-0" data-letter={letter.number}>
      <button
        type="button"
        onClick={open}
        aria-expanded={isChosen}
        className="flex w-full flex-wrap items-baseline gap-x-3 text-left max-md:min-h-11"
      >
        <span className="font-mono text-[13.5px]">
          {letter.number} {letter.from} → {letter.to}
        </span>
        <span className={`min-w-0 flex-1 ${isNew ? 'font-[680]' : ''}`}>
          {letter.subject || 'no subject'}
        </span>
        <span className="text-[13px] text-ink2">
          {[statusWords(letter, me), formatAge(nowMs - letter.atMs)]
            .filter((words) => words !== '')
            .join(' · ')}
        </span>
      </button>
      {isChosen && (
        <div className="pb-2 pl-3">
          <pre className="py-2 font-mono text-[14px] whitespace-pre-wrap">{letter.text}</pre>
          <OperatorOnly>
            <Button
              kind="stop"
              disabled={isBusy}
              onClick={() => void attempt(() => command('DELETE', `/mailbox/letters/${letter.number}`))}
            >
              Remove it
            </Button>
          </OperatorOnly>
        </div>
      )}
      {problem && <ProblemNote problem={problem} />}
    </li>
  );
}

function statusWords({ isRead, to }: LetterView, me: string): string {
  if (to === me) return isRead ? '' : 'new';
  if (to === 'ALL') return 'for all';
  return isRead ? 'fetched' : 'waits to be fetched';
}

function HalfReceived() {
  const half = useLive((state) => state.mailbox.halfReceived);
  const { problem, isBusy, attempt } = useAttempt();
  return (
    <section aria-label="Half-received" className="border-t-[1.5px] border-look pt-2">
      <h2>Half-received</h2>
      <p className="text-[13.5px] text-ink2">The link died before the end came: these are no letters.</p>
      <ul>
        {half.map(({ id, from, to, subject, text }) => (
          <li key={id} className="border-t border-line py-2 first:border-t-0">
            <p className="font-mono text-[13.5px]">
              {from} → {to}: {subject}
            </p>
            <pre className="font-mono text-[14px] whitespace-pre-wrap text-ink2">{text}</pre>
            <OperatorOnly>
              <Button
                disabled={isBusy}
                onClick={() => void attempt(() => command('DELETE', `/mailbox/half/${id}`))}
              >
                Let it go
              </Button>
            </OperatorOnly>
          </li>
        ))}
      </ul>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}

function WriteLetterForm({ to, about }: { to: string; about: string | undefined }) {
  const first = { to, subject: about === undefined ? '' : `re: ${about}`.slice(0, 60), text: '' };
  const { values, set, drop } = useDraft(`letter to ${to}`, first);
  const { problem, isBusy, attempt } = useAttempt();
  const fields = problem?.fields ?? {};
  return (
    <OperatorOnly>
      <form
        noValidate
        aria-label="Leave a letter here"
        className="flex flex-col gap-2 border-t-[1.5px] border-ink pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          void attempt(async () => {
            await command('POST', '/mailbox/letters', values);
            drop();
          });
        }}
      >
        <h2>{to === '' ? 'Leave a letter here' : `Answer ${to}`}</h2>
        <div className="grid gap-3 md:grid-cols-[9rem_minmax(0,1fr)]">
          <TextField
            label="To"
            mono
            value={values.to}
            error={fields.to}
            hint="a call without SSID, or ALL"
            onChange={({ target }) => set({ ...values, to: target.value.toUpperCase() })}
          />
          <TextField
            label="Subject"
            value={values.subject}
            error={fields.subject}
            onChange={({ target }) => set({ ...values, subject: target.value })}
          />
        </div>
        <label className="flex flex-col gap-1 text-[13.5px] font-[620]">
          Text
          <textarea
            rows={4}
            value={values.text}
            onChange={({ target }) => set({ ...values, text: target.value })}
            className="rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono font-[400]"
          />
        </label>
        {problem && !problem.fields && <ProblemNote problem={problem} />}
        <div>
          <Button type="submit" kind="main" disabled={isBusy || values.to === ''}>
            Keep it for {values.to || 'whom?'}
          </Button>
        </div>
      </form>
    </OperatorOnly>
  );
}

function Callers() {
  const calls = useLive((state) => state.sessions).filter(({ purpose }) => purpose === 'mailbox');
  const nowMs = useNow(10_000);
  return (
    <section aria-label="Callers" className="border-t-[1.5px] border-ink pt-2">
      <h2>Callers</h2>
      {calls.length === 0 && <p className="py-1 text-[14px] text-ink2">Nobody has called yet.</p>}
      <ul>
        {[...calls]
          .reverse()
          .slice(0, 12)
          .map(({ id, peer, openedAtMs, outcome, heardOctets }) => (
            <li
              key={id}
              className="flex flex-wrap gap-x-3 border-t border-line py-1.5 text-[14px] first:border-t-0"
            >
              <Link
                to={`/terminal/session/${id}`}
                className="font-mono underline decoration-line underline-offset-4"
              >
                {peer}
              </Link>
              <span className="text-ink2">{formatAge(nowMs - openedAtMs)} ago</span>
              <span className="text-ink2">{outcome ?? 'is here now'}</span>
              <span className="font-mono text-ink3">{heardOctets} octets</span>
            </li>
          ))}
      </ul>
    </section>
  );
}
