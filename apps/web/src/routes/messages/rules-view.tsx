import type { MessageSettings } from '@mistpeak/contract/messages';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { DraftNote } from '../../pieces/draft-note';
import { NumberField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { AttentionChoice } from './attention-choice';

const ANSWERS = [
  ['heardDirect', 'whom I hear direct (?APRSD)'],
  ['heardStation', 'how often I heard a station (?APRSH)'],
  ['way', 'by which way the question came (?APRST, ?PING?)'],
  ['position', 'where I am (?APRSP): one beacon'],
] as const;

/** How the book of messages works: tries, groups, answers without a person, attention. */
export function RulesView() {
  const saved = useLive((state) => state.messages.settings);
  const { values, set, wasBegun, drop } = useDraft<MessageSettings>('message rules', saved);
  const { problem, isBusy, attempt } = useAttempt();
  const fields = problem?.fields ?? {};
  const change = (more: Partial<MessageSettings>): void => set({ ...values, ...more });
  const answers = values.answers;
  return (
    <div className="grid max-w-[62rem] gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_20rem]">
      <OperatorOnly>
        <form
          noValidate
          className="flex flex-col gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            void attempt(async () => {
              await command('PUT', '/messages/settings', { ...values, version: saved.version });
              drop();
            });
          }}
        >
          {wasBegun && <DraftNote drop={drop} />}
          <h2>Tries</h2>
          <div className="grid grid-cols-2 gap-3 md:grid-cols-4">
            <NumberField
              label="Tries"
              value={values.tries}
              error={fields.tries}
              set={(tries = NaN) => change({ tries })}
            />
            <NumberField
              label="First gap, s"
              hint="each later one is twice as long"
              value={values.firstGapS}
              error={fields.firstGapS}
              set={(firstGapS = NaN) => change({ firstGapS })}
            />
            <NumberField
              label="Longest gap, s"
              value={values.longestGapS}
              error={fields.longestGapS}
              set={(longestGapS = NaN) => change({ longestGapS })}
            />
            <NumberField
              label="Bulletins, times"
              value={values.bulletinTries}
              error={fields.bulletinTries}
              set={(bulletinTries = NaN) => change({ bulletinTries })}
            />
          </div>
          <Choice
            label="Invite others to acknowledge within their own messages (reply-acks)"
            isOn={values.offersReplyAcks}
            set={(offersReplyAcks) => change({ offersReplyAcks })}
          />
          <h2>Groups that I listen to</h2>
          <TextField
            label="Groups"
            mono
            value={values.groups.join(' ')}
            error={fields.groups}
            hint="names of at most nine characters, with blanks between"
            onChange={({ target }) => change({ groups: words(target.value) })}
          />
          <h2>Answers without a person</h2>
          <p className="max-w-[44rem] text-[13.5px] text-ink2">
            Off unless you switch one on; at most one answer a minute, and only while the transmitter is
            armed. Sending while nobody is there has rules of its own: your licence and your local rules come
            first.
          </p>
          {ANSWERS.map(([name, label]) => (
            <Choice
              key={name}
              label={label}
              isOn={answers[name]}
              set={(isOn) => change({ answers: { ...answers, [name]: isOn } })}
            />
          ))}
          <TextField
            label="Text to everyone who writes"
            value={answers.text}
            error={fields.answers}
            hint="empty: none"
            onChange={({ target }) => change({ answers: { ...answers, text: target.value } })}
          />
          {problem && !problem.fields && <ProblemNote problem={problem} />}
          <div>
            <Button type="submit" kind="main" disabled={isBusy}>
              Save the rules
            </Button>
          </div>
        </form>
      </OperatorOnly>
      <AttentionChoice />
    </div>
  );
}

/** As they are typed: a blank at the end begins the next one. */
const words = (text: string): string[] => text.toUpperCase().replace(/^\s+/, '').split(/\s/);
