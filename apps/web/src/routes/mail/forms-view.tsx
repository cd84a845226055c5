import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { MailTemplate } from '@mistpeak/contract/mail-settings';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatPlace, parsePlace } from '@mistpeak/core/geo/place';
import {
  fieldsOf,
  fillTemplate,
  KNOWN_FIELDS,
  positionReport,
  type FilledForm,
} from '@mistpeak/core/mail/forms';
import { shownAddress } from '@mistpeak/core/mail/address';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft, writeKept } from '../../live/draft';
import { useLive } from '../../live/store';
import { useNow } from '../../live/now';
import { Button } from '../../pieces/button';
import { NumberField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { BLANK } from './write-view';

/** Letters of a form: a position, a check-in, one's own. They travel as text that anybody can read. */
export function FormsView({ desk, again }: { desk: MailDesk; again: () => void }) {
  const [chosen, setChosen] = useState('position');
  const { templates } = desk.settings;
  const template = templates.find(({ name }) => name === chosen);
  return (
    <OperatorOnly>
      <div className="grid gap-x-9 gap-y-5 lg:grid-cols-[14rem_minmax(0,1fr)]">
        <div
          role="radiogroup"
          aria-label="Form"
          className="flex flex-col items-start gap-1 border-t-[1.5px] border-ink pt-2"
        >
          {['position', ...templates.map(({ name }) => name), 'templates'].map((name) => (
            <label
              key={name}
              className={`flex min-h-8 cursor-pointer items-center gap-2 text-[15px] max-md:min-h-11 ${chosen === name ? 'font-[680]' : ''}`}
            >
              <input type="radio" name="form" checked={chosen === name} onChange={() => setChosen(name)} />
              {name === 'position' ? 'Position report' : name === 'templates' ? 'Change the templates' : name}
            </label>
          ))}
        </div>
        {chosen === 'templates' ? (
          <Templates desk={desk} again={again} />
        ) : template ? (
          <Fill key={template.name} template={template} />
        ) : (
          <PositionForm />
        )}
      </div>
    </OperatorOnly>
  );
}

/** What it comes to, and on to the letter. */
function Filled({ form, blocked }: { form: FilledForm; blocked?: string | undefined }) {
  const navigate = useNavigate();
  const write = (): void => {
    writeKept('letter new', {
      begunFrom: BLANK,
      values: { ...BLANK, to: form.to.map(shownAddress).join(', '), subject: form.subject, text: form.text },
    });
    void navigate('/mail/write/new');
  };
  return (
    <div className="flex flex-col gap-2">
      <h2 className="text-[15px]">As it goes out</h2>
      <p className="font-mono text-[13.5px]">
        To: {form.to.join(', ') || '…'}
        <br />
        Subject: {form.subject}
      </p>
      <pre
        aria-label="Text of the form"
        className="border-y border-line py-2 font-mono text-[13.5px] whitespace-pre-wrap"
      >
        {form.text}
      </pre>
      {blocked !== undefined && <p className="text-[14px] text-look">{blocked}</p>}
      <div>
        <Button kind="main" disabled={blocked !== undefined} onClick={write}>
          Make a letter of it
        </Button>
      </div>
    </div>
  );
}

function PositionForm() {
  const operator = useLive((state) => state.operator);
  const whereabouts = useLive((state) => state.whereabouts);
  const nowMs = useNow(60_000);
  const [place, setPlace] = useState(operator?.position ? formatPlace(operator.position) : '');
  const [course, setCourse] = useState<number>();
  const [knots, setKnots] = useState<number>();
  const [comment, setComment] = useState('');
  const read = parsePlace(place);
  const fix = fixOf(whereabouts);
  const position = isMalformed(read) ? { latitudeDeg: 0, longitudeDeg: 0 } : read;
  const form = positionReport({
    ...position,
    atMs: nowMs,
    comment,
    ...(course === undefined ? {} : { courseDeg: course }),
    ...(knots === undefined ? {} : { speedMps: (knots * 1852) / 3600 }),
  });
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-2">
      <div className="flex flex-col gap-2">
        <TextField
          label="Place"
          hint="a locator, degrees, or degrees and minutes"
          mono
          value={place}
          error={place !== '' && isMalformed(read) ? read.malformed : undefined}
          onChange={({ target }) => setPlace(target.value)}
        />
        {fix && (
          <div>
            <Button onClick={() => setPlace(formatPlace(fix))}>Where the receiver says I am</Button>
          </div>
        )}
        <div className="grid grid-cols-2 gap-3">
          <NumberField label="Course, degrees" hint="empty: standing still" value={course} set={setCourse} />
          <NumberField label="Speed, knots" value={knots} set={setKnots} />
        </div>
        <TextField label="Comment" value={comment} onChange={({ target }) => setComment(target.value)} />
        <p className="text-[13px] text-ink3">
          Positions are public. That a gateway took it does not say that the service has published it.
        </p>
      </div>
      <Filled form={form} blocked={isMalformed(read) ? 'Give a place first.' : undefined} />
    </div>
  );
}

const isFix = (value: unknown): value is { latitudeDeg: number; longitudeDeg: number } =>
  typeof value === 'object' && value !== null && 'latitudeDeg' in value && 'longitudeDeg' in value;

/** The last fix that the station has, wherever it lies in what is known. */
function fixOf(whereabouts: unknown): { latitudeDeg: number; longitudeDeg: number } | undefined {
  if (isFix(whereabouts)) return whereabouts;
  if (typeof whereabouts !== 'object' || whereabouts === null) return undefined;
  return Object.values(whereabouts).find(isFix);
}

function Fill({ template }: { template: MailTemplate }) {
  const operator = useLive((state) => state.operator);
  const nowMs = useNow(60_000);
  const fields = fieldsOf(template, KNOWN_FIELDS);
  const { values, set, drop } = useDraft<Readonly<Record<string, string>>>(`form ${template.name}`, {});
  const now = new Date(nowMs).toISOString();
  const known = {
    call: operator?.call ?? '',
    date: now.slice(0, 10),
    time: now.slice(11, 16),
    place: operator?.position ? formatPlace(operator.position) : '',
  };
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-2">
      <div className="flex flex-col gap-1">
        {fields.map(({ name, usual }) => (
          <TextField
            key={name}
            label={`${name.charAt(0).toUpperCase()}${name.slice(1)}`}
            placeholder={usual}
            value={values[name] ?? ''}
            onChange={({ target }) => set({ ...values, [name]: target.value })}
          />
        ))}
        <div>
          <Button onClick={drop}>Empty the fields</Button>
        </div>
      </div>
      <Filled form={fillTemplate(template, { ...known, ...values })} />
    </div>
  );
}

function Templates({ desk, again }: { desk: MailDesk; again: () => void }) {
  const { values, set, drop } = useDraft<readonly MailTemplate[]>('mail templates', desk.settings.templates);
  const { problem, isBusy, attempt } = useAttempt();
  const put = (at: number, more: Partial<MailTemplate>): void =>
    set(values.map((one, i) => (i === at ? { ...one, ...more } : one)));
  return (
    <form
      noValidate
      aria-label="Templates"
      className="flex max-w-[46rem] flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(async () => {
          await command('PUT', '/mail/settings', { ...desk.settings, templates: values });
          drop();
          again();
        });
      }}
    >
      <p className="text-[14px] text-ink2">
        Fields stand in braces, with what is usual there: <span className="font-mono">{'{terns=0}'}</span>.
        Filled in by itself: {KNOWN_FIELDS.map((name) => `{${name}}`).join(', ')}.
      </p>
      {values.map((template, i) => (
        <fieldset key={i} className="flex flex-col gap-2 border-t border-line pt-2">
          <legend className="sr-only">{template.name}</legend>
          <div className="grid gap-3 sm:grid-cols-3">
            <TextField
              label="Name"
              value={template.name}
              onChange={({ target }) => put(i, { name: target.value })}
            />
            <TextField
              label="To"
              value={template.to}
              onChange={({ target }) => put(i, { to: target.value })}
            />
            <TextField
              label="Subject"
              value={template.subject}
              onChange={({ target }) => put(i, { subject: target.value })}
            />
          </div>
          <label className="flex flex-col gap-1 text-[13.5px] font-[620]">
            Text
            <textarea
              rows={8}
              value={template.text}
              onChange={({ target }) => put(i, { text: target.value })}
              className="rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono font-[400]"
            />
          </label>
          <div>
            <Button kind="stop" onClick={() => set(values.filter((_, at) => at !== i))}>
              Take {template.name || 'it'} out
            </Button>
          </div>
        </fieldset>
      ))}
      {problem && <ProblemNote problem={problem} detail={Object.values(problem.fields ?? {}).join('; ')} />}
      <div className="flex gap-3">
        <Button onClick={() => set([...values, { name: 'New form', to: '', subject: '', text: '' }])}>
          Add a template
        </Button>
        <Button type="submit" kind="main" disabled={isBusy}>
          Save the templates
        </Button>
      </div>
    </form>
  );
}
