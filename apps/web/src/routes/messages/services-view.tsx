import { useState } from 'react';
import { encodeMessage } from '@mistpeak/core/aprs/message';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromLatin1, octetText } from '@mistpeak/core/bits/octets';
import { parsePath } from '@mistpeak/core/digipeating/alias';
import { compose, roomLeft } from '@mistpeak/core/services/form';
import { answersTo, recordOf, stageOf, type Stage } from '@mistpeak/core/services/outcome';
import type { OutgoingView, ServiceSettings, WriteMessage } from '@mistpeak/contract/messages';
import { Link } from 'react-router';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useMainLink } from '../../live/main-link';
import { useNow } from '../../live/now';
import { useOwnCost } from '../../live/own-cost';
import { useLive } from '../../live/store';
import { formatAge, formatSeconds } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { ServiceForm } from './service-form';
import { useStandingWords } from './standing';

/** Messages to services: a strict text, checked before it costs air time; and what came back. */
export function ServicesView() {
  const settings = useLive((state) => state.messages.settings);
  const [open, setOpen] = useState<number | 'new'>();
  const { problem, isBusy, attempt } = useAttempt();
  const save = (services: readonly ServiceSettings[]): void =>
    void attempt(async () => {
      await command('PUT', '/messages/settings', { ...settings, services });
      setOpen(undefined);
    });
  return (
    <div className="flex max-w-[60rem] flex-col gap-6">
      {settings.services.length === 0 && (
        <p className="max-w-[46rem] text-ink2">
          No service yet. A service takes messages of a strict form and does something with them: a text to a
          phone, a short mail, the weather. Each is run by somebody, opens and closes: describe those that you
          use.
        </p>
      )}
      {settings.services.map((service, i) =>
        open === i ? (
          <ServiceForm
            key={service.name}
            service={service}
            problem={problem}
            isBusy={isBusy}
            save={(changed) => save(settings.services.with(i, changed))}
            remove={() => save(settings.services.filter((_, at) => at !== i))}
            close={() => setOpen(undefined)}
          />
        ) : (
          <Service key={service.name} service={service} change={() => setOpen(i)} />
        ),
      )}
      <OperatorOnly>
        {open === 'new' ? (
          <ServiceForm
            problem={problem}
            isBusy={isBusy}
            save={(service) => save([...settings.services, service])}
            close={() => setOpen(undefined)}
          />
        ) : (
          <div>
            <Button onClick={() => setOpen('new')}>Describe a service …</Button>
          </div>
        )}
      </OperatorOnly>
    </div>
  );
}

function Service({ service, change }: { service: ServiceSettings; change: () => void }) {
  const { outgoing, received } = useLive((state) => state.messages);
  const nowMs = useNow(10_000);
  const mine = outgoing.filter(({ to }) => to === service.addressee);
  const stage = (message: OutgoingView): Stage =>
    stageOf(message, answersTo(message, mine, received), service.deliveredMark);
  const record = recordOf(mine, (message) => stage(message as OutgoingView));
  return (
    <section aria-label={service.name} className="border-t-[1.5px] border-ink pt-2.5">
      <h2 className="flex flex-wrap items-baseline gap-x-3">
        {service.name}
        <span className="font-mono text-[14px] font-[500]">{service.addressee}</span>
        <span className="text-[13.5px] font-[450] text-ink2">
          {record.asked === 0
            ? 'not tried yet'
            : `worked ${record.worked} of ${record.asked} times${record.lastWorkedAtMs === undefined ? '' : `, last ${formatAge(nowMs - record.lastWorkedAtMs)} ago`}`}
        </span>
        {record.mayBeClosed && (
          <span role="status" className="text-[13.5px] font-[620] text-stop">
            may be closed: twice nothing came
          </span>
        )}
      </h2>
      {service.optIn !== '' && <p className="pt-0.5 text-[13.5px] text-ink2">{service.optIn}</p>}
      <OperatorOnly>
        <Asking service={service} />
      </OperatorOnly>
      {mine.at(-1) && (
        <Last message={mine.at(-1) as OutgoingView} stage={stage(mine.at(-1) as OutgoingView)} />
      )}
      <OperatorOnly>
        <Button className="mt-2" onClick={change} aria-label={`Change ${service.name}`}>
          Change the form
        </Button>
      </OperatorOnly>
    </section>
  );
}

/** The fields, the text that they make, and what it costs. */
function Asking({ service }: { service: ServiceSettings }) {
  const link = useMainLink();
  const from = useLive(
    ({ locks, beacon, operator }) =>
      (link && locks.get(link.id)?.call) ?? beacon?.source ?? operator?.call ?? '',
  );
  const { values, set, drop } = useDraft<Record<string, string>>(`service ${service.addressee}`, {});
  const [isAsked, setAsked] = useState(false);
  const { problem, isBusy, attempt } = useAttempt();
  const made = compose(service, values);
  const trouble = isAsked && !made.ok ? made : undefined;
  const change = (name: string, value: string): void => set({ ...values, [name]: value });
  const send = async (text: string): Promise<void> => {
    const message: WriteMessage = {
      from,
      to: service.addressee,
      text,
      linkId: link?.id ?? '',
      path: 'WIDE1-1,WIDE2-1',
    };
    await command('POST', '/messages', message);
    setAsked(false);
    drop();
  };
  return (
    <form
      noValidate
      aria-label={`Ask ${service.name}`}
      className="flex flex-col gap-2 pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        setAsked(true);
        if (made.ok) void attempt(() => send(made.text));
      }}
    >
      <div className="grid gap-3 md:grid-cols-[12rem_minmax(0,1fr)]">
        {service.fields.map(({ name, label, kind, digits, prefix = '', words = [] }) => {
          const error = trouble?.field === name ? trouble.trouble : undefined;
          if (kind === 'word' && words.length > 0)
            return (
              <SelectField
                key={name}
                label={label}
                error={error}
                value={values[name] ?? ''}
                onChange={({ target }) => change(name, target.value)}
              >
                <option value="">choose</option>
                {words.map((word) => (
                  <option key={word}>{word}</option>
                ))}
              </SelectField>
            );
          return (
            <TextField
              key={name}
              label={label}
              mono={kind !== 'text'}
              inputMode={kind === 'number' ? 'tel' : undefined}
              error={error}
              hint={
                kind === 'number' && digits !== undefined
                  ? `${digits} digits${prefix === '' ? ', no country prefix' : `, from ${prefix}`}`
                  : kind === 'text'
                    ? `${roomLeft(service, values)} octets left`
                    : ''
              }
              value={values[name] ?? ''}
              onChange={({ target }) => change(name, target.value)}
            />
          );
        })}
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <Button type="submit" kind="main" disabled={isBusy || !link}>
          Send to {service.addressee}
        </Button>
        {made.ok && (
          <span className="text-[13.5px] text-ink2">
            goes out as “<span className="font-mono">{made.text}</span>”
            <AirTime from={from} to={service.addressee} text={made.text} />
          </span>
        )}
      </div>
      {problem && <ProblemNote problem={problem} />}
    </form>
  );
}

function AirTime({ from, to, text }: { from: string; to: string; text: string }) {
  const cost = useOwnCost();
  const path = parsePath('WIDE1-1,WIDE2-1');
  if (isMalformed(path) || from === '') return null;
  const info = fromLatin1(encodeMessage(to, octetText(text), '00'));
  return <>, {formatSeconds(cost.airMs(encodeFrame(uiFrame(from, OWN_DESTINATION, path, info))))} each try</>;
}

const STAGES: readonly Stage[] = ['repeated', 'taken', 'delivered', 'answered'];
const STAGE_WORDS: Record<Stage, string> = {
  'on its way': 'on its way',
  repeated: 'repeated by a digipeater',
  taken: 'taken by the service, which is no delivery',
  delivered: 'delivered, says the service',
  answered: 'answered',
  failed: 'nothing came back',
};

/** The last message to it: how far it has come, and the answers. */
function Last({ message, stage }: { message: OutgoingView; stage: Stage }) {
  const nowMs = useNow(1000);
  const { outgoing, received } = useLive((state) => state.messages);
  const words = useStandingWords(message, nowMs);
  const answers = answersTo(message, outgoing, received);
  const reached = STAGES.indexOf(stage);
  return (
    <div className="pt-2 text-[14px]" data-stage={stage}>
      <p className="flex flex-wrap items-center gap-x-3">
        <span>
          “<span className="font-mono">{message.text}</span>”, {formatAge(nowMs - message.writtenAtMs)} ago:
        </span>
        <span className="inline-flex items-center gap-1" aria-hidden>
          {STAGES.map((name, i) => (
            <span
              key={name}
              className={`h-2.5 w-6 rounded-[2px] border ${i <= reached ? 'border-proved bg-provedfill' : 'border-edge'}`}
            />
          ))}
        </span>
        <b
          className={`font-[620] ${stage === 'failed' ? 'text-stop' : reached >= 1 ? 'text-proved' : ''}`}
          role="status"
        >
          {STAGE_WORDS[stage]}
        </b>
        <span className="text-ink2">{words}</span>
      </p>
      {answers.map(({ id, text, atMs }) => (
        <p key={id} className="border-l-[3px] border-r4 pl-3">
          {text} <span className="text-[13px] text-ink3">after {formatAge(atMs - message.writtenAtMs)}</span>
        </p>
      ))}
      <Link className="text-[13.5px] underline" to={`/messages/talks/${message.to}`}>
        All words with {message.to}
      </Link>
    </div>
  );
}
