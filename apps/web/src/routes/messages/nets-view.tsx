import { useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatLocator } from '@mistpeak/core/geo/locator';
import { checkInText, isNear, nextBeginning } from '@mistpeak/core/messages/nets';
import type { NetSettings, WriteMessage } from '@mistpeak/contract/messages';
import type { OperatorView } from '@mistpeak/contract/operator';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useMainLink } from '../../live/main-link';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

const DAYS = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];
/** Who checked in within this time before or after belongs to this evening. */
const EVENING_MS = 4 * 3_600_000;

/** This place's time zone now, minutes east of UTC; never -0. */
function zoneHereMin(): number {
  return -new Date().getTimezoneOffset() || 0;
}

/** The nets to check in to: when next, one press, who else is there. */
export function NetsView({ operator }: { operator: OperatorView }) {
  const settings = useLive((state) => state.messages.settings);
  const [open, setOpen] = useState<number | 'new'>();
  const { problem, isBusy, attempt } = useAttempt();
  const save = (nets: readonly NetSettings[]): Promise<boolean> =>
    attempt(async () => {
      await command('PUT', '/messages/settings', { ...settings, nets });
      setOpen(undefined);
    });
  return (
    <div className="flex max-w-[52rem] flex-col gap-4">
      {settings.nets.length === 0 && (
        <p className="text-ink2">
          No net yet. A net is a time each week at which stations check in with a message to one addressee.
        </p>
      )}
      {settings.nets.map((net, i) =>
        open === i ? (
          <NetForm
            key={net.name}
            net={net}
            problem={problem?.happened}
            isBusy={isBusy}
            save={(changed) => void save(settings.nets.with(i, changed))}
            close={() => setOpen(undefined)}
          />
        ) : (
          <NetEntry
            key={net.name}
            net={net}
            operator={operator}
            change={() => setOpen(i)}
            remove={() => void save(settings.nets.filter((_, at) => at !== i))}
          />
        ),
      )}
      <OperatorOnly>
        {open === 'new' ? (
          <NetForm
            net={{
              name: '',
              weekday: 3,
              time: '19:30',
              zoneMin: zoneHereMin(),
              addressee: '',
              template: '{call} {locator}',
              remindMin: 15,
            }}
            problem={problem?.happened}
            isBusy={isBusy}
            save={(net) => void save([...settings.nets, net])}
            close={() => setOpen(undefined)}
          />
        ) : (
          <div>
            <Button kind={settings.nets.length === 0 ? 'main' : 'plain'} onClick={() => setOpen('new')}>
              Add a net …
            </Button>
          </div>
        )}
      </OperatorOnly>
    </div>
  );
}

function NetEntry({
  net,
  operator,
  change,
  remove,
}: {
  net: NetSettings;
  operator: OperatorView;
  change: () => void;
  remove: () => void;
}) {
  const nowMs = useNow(1000);
  const beginsMs = nextBeginning(net, nowMs);
  const near = isNear(net, nowMs);
  return (
    <section aria-label={net.name} className="border-t border-line pt-3">
      <h2 className="flex flex-wrap items-baseline gap-x-3">
        {net.name}
        <span className={`text-[14px] font-[500] ${near ? 'text-look' : 'text-ink2'}`} role="status">
          {near ? '! ' : ''}
          {DAYS[net.weekday]} {net.time}, {zoneWords(net.zoneMin)}; begins in {formatAge(beginsMs - nowMs)}
        </span>
      </h2>
      <p className="text-[14px] text-ink2">
        to <span className="font-mono">{net.addressee}</span>, reminds {net.remindMin} min before
      </p>
      <OperatorOnly>
        <CheckIn net={net} operator={operator} />
        <span className="flex gap-2 pt-1">
          <Button onClick={change}>Change {net.name}</Button>
          <Button kind="stop" onClick={remove}>
            Remove {net.name}
          </Button>
        </span>
      </OperatorOnly>
      <Others net={net} nowMs={nowMs} />
    </section>
  );
}

/** One press: the text with what is known filled in. */
function CheckIn({ net, operator }: { net: NetSettings; operator: OperatorView }) {
  const link = useMainLink();
  const from = useLive(
    ({ locks, beacon }) => (link && locks.get(link.id)?.call) ?? beacon?.source ?? operator.call,
  );
  const { problem, isBusy, attempt } = useAttempt();
  const text = checkInText(net.template, {
    call: operator.call,
    locator: locatorOf(operator),
    name: net.name,
  });
  const message: WriteMessage = {
    from,
    to: net.addressee,
    text,
    linkId: link?.id ?? '',
    path: 'WIDE1-1,WIDE2-1',
  };
  return (
    <div className="flex flex-wrap items-center gap-3 pt-1">
      <Button
        kind="main"
        disabled={isBusy || !link}
        onClick={() => void attempt(() => command('POST', '/messages', message))}
      >
        Check in to {net.name}
      </Button>
      <span className="text-[14px]">
        “{text}” from <span className="font-mono">{from}</span>
      </span>
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

function locatorOf({ position }: OperatorView): string | undefined {
  const locator = position && formatLocator(position);
  return isMalformed(locator) ? undefined : locator;
}

/** Who else wrote to it this evening, and whether we did. */
function Others({ net, nowMs }: { net: NetSettings; nowMs: number }) {
  const { outgoing, received } = useLive((state) => state.messages);
  const to = net.addressee.toUpperCase();
  const mine = outgoing.find((one) => one.to === to && nowMs - one.writtenAtMs < EVENING_MS);
  const others = [
    ...new Set(
      received
        .filter((one) => (one.to === to || one.from === to) && nowMs - one.atMs < EVENING_MS)
        .map(({ from }) => from),
    ),
  ];
  return (
    <p className="pt-1 text-[14px] text-ink2">
      {mine ? 'You have checked in. ' : 'You have not checked in. '}
      {others.length === 0
        ? 'Nobody else was heard in the last four hours; the group has to stand under “Rules” to be heard.'
        : `Heard there: ${others.join(', ')}.`}
    </p>
  );
}

function zoneWords(zoneMin: number): string {
  const [hours, minutes] = [Math.floor(Math.abs(zoneMin) / 60), Math.abs(zoneMin) % 60];
  if (zoneMin === 0) return 'UTC';
  return `UTC ${zoneMin < 0 ? '−' : '+'}${hours}${minutes === 0 ? '' : `:${String(minutes).padStart(2, '0')}`}`;
}

function NetForm({
  net,
  problem,
  isBusy,
  save,
  close,
}: {
  net: NetSettings;
  problem: string | undefined;
  isBusy: boolean;
  save: (net: NetSettings) => void;
  close: () => void;
}) {
  const [values, set] = useState(net);
  const change = (more: Partial<NetSettings>): void => set({ ...values, ...more });
  return (
    <form
      noValidate
      aria-label="Net"
      className="flex flex-col gap-3 border-l-[3px] border-edge bg-raise px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        save(values);
      }}
    >
      <div className="grid gap-3 md:grid-cols-3">
        <TextField
          label="Name"
          value={values.name}
          onChange={({ target }) => change({ name: target.value })}
        />
        <TextField
          label="Addressee"
          mono
          value={values.addressee}
          hint="a group, or the station that keeps the list"
          onChange={({ target }) => change({ addressee: target.value.toUpperCase() })}
        />
        <TextField
          label="Text"
          value={values.template}
          hint="{call}, {locator} and {name} are filled in"
          onChange={({ target }) => change({ template: target.value })}
        />
        <SelectField
          label="Day"
          value={values.weekday}
          onChange={({ target }) => change({ weekday: Number(target.value) })}
        >
          {DAYS.map((day, i) => (
            <option key={day} value={i}>
              {day}
            </option>
          ))}
        </SelectField>
        <TextField
          label="Time"
          mono
          value={values.time}
          hint="as 19:30"
          onChange={({ target }) => change({ time: target.value })}
        />
        <NumberField
          label="Zone, hours from UTC"
          value={values.zoneMin / 60}
          set={(hours = 0) => change({ zoneMin: Math.round(hours * 60) })}
        />
        <NumberField
          label="Reminds, min before"
          value={values.remindMin}
          set={(remindMin = 0) => change({ remindMin })}
        />
      </div>
      {problem !== undefined && <p className="text-[13.5px] text-stop">{problem}</p>}
      <div className="flex gap-2">
        <Button type="submit" kind="main" disabled={isBusy}>
          Save the net
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </form>
  );
}
