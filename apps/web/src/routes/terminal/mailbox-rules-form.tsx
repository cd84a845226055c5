import type { MailboxSettingsView } from '@mistpeak/contract/mailbox';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useMainLink } from '../../live/main-link';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { DraftNote } from '../../pieces/draft-note';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { LinkField } from '../../pieces/link-field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

const ACCESSES = [
  ['open', 'whoever calls'],
  ['listed', 'listed stations only'],
  ['leave only', 'whoever calls, to leave messages only'],
] as const;
const LIMITS = [
  ['mostLetterOctets', 'Longest letter, octets'],
  ['memoryOctets', 'Memory, octets'],
  ['visitMinutes', 'Longest visit, min'],
  ['idleMinutes', 'Ends when idle, min'],
  ['callsAnHour', 'Calls an hour'],
] as const;

/** By which rules others may call. Off at first, behind the lock, and with the operator's word on local rules. */
export function MailboxRulesForm() {
  const saved = useLive((state) => state.mailbox.settings);
  const { values, set, wasBegun, drop } = useDraft<MailboxSettingsView>('mailbox rules', saved);
  const { problem, isBusy, attempt } = useAttempt();
  const link = useMainLink();
  const fields = problem?.fields ?? {};
  const change = (more: Partial<MailboxSettingsView>): void => set({ ...values, ...more });
  const linkId = values.linkId ?? link?.id;
  return (
    <OperatorOnly>
      <form
        noValidate
        aria-label="Rules of my mailbox"
        className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          void attempt(async () => {
            const chosen = linkId === undefined ? {} : { linkId };
            await command('PUT', '/mailbox/settings', { ...values, ...chosen, version: saved.version });
            drop();
          });
        }}
      >
        <h2>Rules</h2>
        {wasBegun && <DraftNote drop={drop} />}
        <Choice label="It takes calls" isOn={values.isOn} set={(isOn) => change({ isOn })} />
        <Choice
          label="My local rules allow a station that answers while nobody is there"
          isOn={values.allowsAutomatic}
          set={(allowsAutomatic) => change({ allowsAutomatic })}
        />
        {fields.allowsAutomatic && (
          <p role="alert" className="text-[13.5px] font-[560] text-stop">
            {fields.allowsAutomatic}
          </p>
        )}
        <div className="grid grid-cols-[minmax(0,1fr)_6rem] gap-3">
          <LinkField
            label="Link"
            value={linkId ?? ''}
            error={fields.linkId}
            set={(id) => change({ linkId: id })}
          />
          <NumberField
            label="SSID"
            value={values.ssid}
            error={fields.ssid}
            set={(ssid = NaN) => change({ ssid })}
          />
        </div>
        <SelectField
          label="Who may come in"
          value={values.access}
          onChange={({ target }) => change({ access: target.value as MailboxSettingsView['access'] })}
        >
          {ACCESSES.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
        {values.access === 'listed' && (
          <TextField
            label="Listed stations"
            mono
            hint="calls without SSID, with blanks between"
            error={fields.listed}
            value={values.listed.join(' ')}
            onChange={({ target }) =>
              change({ listed: target.value.toUpperCase().replace(/^\s+/, '').split(/\s/) })
            }
          />
        )}
        <SelectField
          label="Who may read what is for somebody else"
          value={values.readers}
          onChange={({ target }) => change({ readers: target.value as MailboxSettingsView['readers'] })}
        >
          <option value="addressee">nobody: its addressee and its writer alone</option>
          <option value="everybody">everybody</option>
        </SelectField>
        <TextField
          label="Greeting"
          value={values.greeting}
          error={fields.greeting}
          onChange={({ target }) => change({ greeting: target.value })}
        />
        <TextField
          label="Information"
          hint="what I tells"
          value={values.information}
          error={fields.information}
          onChange={({ target }) => change({ information: target.value })}
        />
        <div className="grid grid-cols-2 gap-3">
          {LIMITS.map(([name, label]) => (
            <NumberField
              key={name}
              label={label}
              value={values[name]}
              error={fields[name]}
              set={(value = NaN) => change({ [name]: value })}
            />
          ))}
        </div>
        <Choice
          label="Send every half hour for whom mail waits"
          isOn={values.announces}
          set={(announces) => change({ announces })}
        />
        {problem && !problem.fields && <ProblemNote problem={problem} />}
        <div>
          <Button type="submit" kind="main" disabled={isBusy}>
            Save the rules
          </Button>
        </div>
        <p className="text-[13px] text-ink3">
          Letters for others are third-party traffic and have rules of their own where you are; everybody can
          read them. Unattended operation too: local rules come first.
        </p>
      </form>
    </OperatorOnly>
  );
}
