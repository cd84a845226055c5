import { useState } from 'react';
import { shortestEveryMs, USUAL_PLANS } from '@mistpeak/core/beacon/plan';
import type { BeaconWaySettings, BeaconWayView } from '@mistpeak/contract/beacon-ways';
import type { OperatorView } from '@mistpeak/contract/operator';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useMainLink } from '../../live/main-link';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { settingsOfWay } from '../../live/settings-of-way';
import { formatAge, formatSeconds } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { NumberField, SelectField } from '../../pieces/field';
import { HeardOwnCalls } from '../../pieces/heard-own-calls';
import { LinkField } from '../../pieces/link-field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';
import { whenWords } from './next-out';
import { shareOfChannel, useOwnCost } from '../../live/own-cost';
import { PlanFields } from './plan-fields';
import { planWords } from './plan-words';
import { Whereabouts } from './whereabouts';

/** Some fifty stations share a channel on a busy day (common practice, no source). */
const MUCH = 0.02;
/** A fixed station that beacons more often tells nobody anything new (common practice, no source). */
const OFTEN_FOR_FIXED_MS = 10 * 60_000;

/** Each way on which beacons leave by themselves: what, when next, what it costs; their sum against the channel. */
export function WaysView({ operator }: { operator: OperatorView }) {
  const ways = useLive((state) => state.beaconWays);
  const links = useLive((state) => state.links);
  const beacon = useLive((state) => state.beacon);
  const [open, setOpen] = useState<BeaconWayView | 'new'>();
  const total = ways.filter(({ isOn }) => isOn).reduce((sum, way) => sum + shareOf(way), 0);
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <p className="text-[19px] leading-snug font-[620]">
          {ways.length === 0
            ? 'Nothing leaves by itself. A fixed station needs no more than one beacon in half an hour, or none.'
            : `Together they take ${(total * 100).toFixed(1)} % of the channel, copies reckoned in.`}
        </p>
        {total > MUCH && (
          <p className="border-l-[3px] border-look pl-3 text-[14px]">
            That is much for one station: the channel is everybody’s. After a test, turn the interval back.
          </p>
        )}
        <OwnBeaconWarning />
        {ways.length > 0 && (
          <Table
            stacks
            columns={['Beacon', 'Plan', 'Next', 'Costs', { head: 'Change', isHidden: true }]}
            className="w-full text-[14px]"
          >
            {ways.map((way) => (
              <WayRow
                key={way.id}
                way={way}
                operator={operator}
                link={links.find(({ id }) => id === way.linkId)?.settings.name ?? '?'}
                change={() => setOpen(way)}
              />
            ))}
          </Table>
        )}
        <OperatorOnly>
          {open ? (
            <WayForm
              key={open === 'new' ? 'new' : open.id}
              way={open === 'new' ? undefined : open}
              operator={operator}
              close={() => setOpen(undefined)}
            />
          ) : (
            <div>
              <Button kind="main" disabled={!beacon || links.length === 0} onClick={() => setOpen('new')}>
                Let beacons leave by a plan …
              </Button>
              {!beacon && (
                <p className="pt-1 text-[13.5px] text-ink3">Save a beacon first, under “What goes out”.</p>
              )}
            </div>
          )}
        </OperatorOnly>
        <HeardOwnCalls operator={operator} />
        <p className="max-w-[46rem] text-[13.5px] text-ink2">
          Positions that are sent are public. Sending while nobody is there has rules of its own: your licence
          and your local rules come first. Not to be handled while driving.
        </p>
      </div>
      <Whereabouts />
    </div>
  );
}

/** Of the channel, those who repeat it reckoned in. */
const shareOf = ({ plan, airTimeMs = 0 }: BeaconWayView): number =>
  shareOfChannel(airTimeMs, 3_600_000 / shortestEveryMs(plan));

function WayRow({
  way,
  operator,
  link,
  change,
}: {
  way: BeaconWayView;
  operator: OperatorView;
  link: string;
  change: () => void;
}) {
  const nowMs = useNow(1000);
  const cost = useOwnCost();
  const { problem, isBusy, attempt } = useAttempt();
  const { id, source, plan, position, isOn, sent, lastSentAtMs, test, airTimeMs, trouble, version } = way;
  const perDay = Number.isFinite(shortestEveryMs(plan)) ? 86_400_000 / shortestEveryMs(plan) : 0;
  const switchTo = (on: boolean): void =>
    void attempt(() => command('PUT', `/beacon/ways/${id}`, { ...settingsOfWay(way), isOn: on, version }));
  return (
    <>
      <tr className="border-t border-line align-top" data-way={source}>
        <th scope="row" className="py-2 pr-3 text-left font-[500]">
          <b className="font-mono">{source}</b>
          <span className="block text-[13px] text-ink3">
            {link}, {position === 'fixed' ? 'from its own place' : 'from where this device is'}
          </span>
        </th>
        <td className="py-2 pr-3">{planWords(plan, operator.units)}</td>
        <td className="py-2 pr-3" role="status">
          {whenWords(way, nowMs)}
          {test && (
            <b className="block text-look">
              every {test.everyS} s for {formatAge(test.untilMs - nowMs)} more, then by the plan
            </b>
          )}
          <span className="block text-[13px] text-ink3">
            {sent} sent{lastSentAtMs === undefined ? '' : `, the last ${formatAge(nowMs - lastSentAtMs)} ago`}
          </span>
          {trouble !== undefined && <span className="block text-[13px] text-stop">{trouble}</span>}
        </td>
        <td className="py-2 pr-3 font-mono text-[13px]">
          {airTimeMs === undefined ? '–' : formatSeconds(airTimeMs)}
          <span className="block">{(shareOf(way) * 100).toFixed(1)} %</span>
          <span className="block">
            {airTimeMs === undefined
              ? ''
              : `${Math.round(cost.milliampHours(airTimeMs, perDay))} mAh a day at ${cost.watts} W`}
          </span>
        </td>
        <td className="py-2 text-right">
          <OperatorOnly>
            <span className="flex flex-wrap gap-1.5 md:justify-end">
              <Button kind={isOn ? 'stop' : 'main'} disabled={isBusy} onClick={() => switchTo(!isOn)}>
                {isOn ? 'Stop' : 'Begin'}
              </Button>
              {test === undefined && <TestInterval id={id} />}

              <Button disabled={isBusy} aria-label={`Change the plan of ${source}`} onClick={change}>
                Change
              </Button>
              <Button
                kind="stop"
                disabled={isBusy}
                aria-label={`Remove the plan of ${source}`}
                onClick={() => void attempt(() => command('DELETE', `/beacon/ways/${id}`))}
              >
                Remove
              </Button>
            </span>
          </OperatorOnly>
        </td>
      </tr>
      {problem && (
        <tr>
          <td colSpan={5}>
            <ProblemNote problem={problem} />
          </td>
        </tr>
      )}
    </>
  );
}

function WayForm({
  way,
  operator,
  close,
}: {
  way: BeaconWayView | undefined;
  operator: OperatorView;
  close: () => void;
}) {
  const main = useMainLink();
  const beacon = useLive((state) => state.beacon);
  const [settings, set] = useState<BeaconWaySettings>(() =>
    way
      ? settingsOfWay(way)
      : {
          linkId: main?.id ?? '',
          source: beacon?.source ?? operator.call,
          plan: { ...USUAL_PLANS.interval, everyMs: 30 * 60_000 },
          position: 'fixed',
          leastGapS: 20,
          jitterS: 15,
          busyAbovePercent: 50,
          isOn: false,
        },
  );
  const { problem, isBusy, attempt } = useAttempt();
  const fields = problem?.fields ?? {};
  const change = (more: Partial<BeaconWaySettings>): void => set({ ...settings, ...more });
  const save = async (isOn: boolean): Promise<void> => {
    const body = { ...settings, isOn };
    if (way) await command('PUT', `/beacon/ways/${way.id}`, { ...body, version: way.version });
    else await command('POST', '/beacon/ways', body);
    close();
  };
  return (
    <form
      noValidate
      className="flex max-w-[46rem] flex-col gap-3 border-l-[3px] border-edge bg-raise px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(() => save(true));
      }}
    >
      <div className="grid gap-3 md:grid-cols-3">
        <LinkField
          label="Over the link"
          value={settings.linkId}
          error={fields.linkId}
          set={(linkId) => change({ linkId })}
        />
        <SelectField
          label="Beacon of"
          value={settings.source}
          error={fields.source}
          onChange={({ target }) => change({ source: target.value })}
        >
          {[...new Set([settings.source, beacon?.source ?? settings.source])].map((source) => (
            <option key={source}>{source}</option>
          ))}
        </SelectField>
        <SelectField
          label="Position"
          value={settings.position}
          onChange={({ target }) => change({ position: target.value as BeaconWaySettings['position'] })}
        >
          <option value="fixed">the beacon’s own place</option>
          <option value="device">where this device is</option>
        </SelectField>
      </div>
      {settings.position === 'fixed' && (
        <p className="text-[13.5px] text-ink2">
          A fixed station is known after its first packet. Seldom is enough (30 min), and off is better where
          many are heard: it is off until you begin it.
        </p>
      )}
      {settings.position === 'fixed' && shortestEveryMs(settings.plan) < OFTEN_FOR_FIXED_MS && (
        <p className="text-[13.5px] text-look">
          So often from one place tells nobody anything new: use a test interval for a test.
        </p>
      )}
      <PlanFields plan={settings.plan} units={operator.units} set={(plan) => change({ plan })} />
      {fields.plan !== undefined && <p className="text-[13.5px] text-stop">{fields.plan}</p>}
      <div className="grid grid-cols-2 gap-3 md:grid-cols-4">
        <NumberField
          label="Least gap, s"
          value={settings.leastGapS}
          error={fields.leastGapS}
          set={(leastGapS = NaN) => change({ leastGapS })}
        />
        <NumberField
          label="Jitter, s"
          hint="so that two do not stay together"
          value={settings.jitterS}
          error={fields.jitterS}
          set={(jitterS = NaN) => change({ jitterS })}
        />
        <NumberField
          label="Stop after"
          hint="so many; empty: never"
          value={settings.stopAfter ?? undefined}
          error={fields.stopAfter}
          set={(stopAfter) => change({ stopAfter: stopAfter ?? null })}
        />
        <NumberField
          label="Gives way above, %"
          hint="of the channel in use"
          value={settings.busyAbovePercent}
          error={fields.busyAbovePercent}
          set={(busyAbovePercent = NaN) => change({ busyAbovePercent })}
        />
      </div>
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" kind="main" disabled={isBusy}>
          Save and begin
        </Button>
        <Button disabled={isBusy} onClick={() => void attempt(() => save(false))}>
          Save, and leave it off
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </form>
  );
}

/** A radio that beacons by itself with the same call: others see two stations jump about. */
function OwnBeaconWarning() {
  const kit = useLive((state) => state.kit);
  const radios = kit.filter(
    ({ switches }) => switches.ownBeacon !== undefined && /^on\b/i.test(switches.ownBeacon),
  );
  if (radios.length === 0) return null;
  return (
    <p className="border-l-[3px] border-look pl-3 text-[14px]">
      {radios.map(({ name }) => name).join(' and ')} {radios.length === 1 ? 'beacons' : 'beacon'} by{' '}
      {radios.length === 1 ? 'itself' : 'themselves'} too (Kit says so). With the same call-SSID others see
      one station in two places: switch that off, or give it an SSID of its own.
    </p>
  );
}

/** Every so often for so long, then the plan goes on by itself: nobody has to remember it. */
function TestInterval({ id }: { id: string }) {
  const [isOpen, setOpen] = useState(false);
  const [everyS, setEvery] = useState<number | undefined>(30);
  const [minutes, setMinutes] = useState<number | undefined>(5);
  const { problem, isBusy, attempt } = useAttempt();
  if (!isOpen) return <Button onClick={() => setOpen(true)}>Test interval …</Button>;
  return (
    <span className="flex flex-col items-stretch gap-2 rounded-lg border border-line bg-raise p-2 text-left">
      <NumberField label="Every, s" value={everyS} error={problem?.fields?.everyS} set={setEvery} />
      <NumberField label="For, min" value={minutes} error={problem?.fields?.forS} set={setMinutes} />
      <Button
        kind="main"
        disabled={isBusy}
        onClick={() =>
          void attempt(async () => {
            await command('POST', `/beacon/ways/${id}/test`, {
              everyS,
              forS: Math.round((minutes ?? NaN) * 60),
            });
            setOpen(false);
          })
        }
      >
        Begin the test
      </Button>
      <Button onClick={() => setOpen(false)}>Cancel</Button>
    </span>
  );
}
