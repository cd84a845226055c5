import { useWatch } from 'react-hook-form';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { formatPlace } from '@mistpeak/core/geo/place';
import { BeaconSettings, type BeaconView } from '@mistpeak/contract/beacon';
import type { OperatorView } from '@mistpeak/contract/operator';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraftedForm } from '../../live/drafted-form';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { DraftedNotes } from '../../pieces/drafted-notes';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { BeaconFields } from './beacon-fields';
import { OutgoingFrame } from './outgoing-frame';
import { SendPanel } from './send-panel';
import { SentList } from './sent-list';
import { useFrameOf, type Outgoing } from './frame-of';
import { shareWords, useOwnCost, VOLTS } from '../../live/own-cost';

/** What exactly goes out, what it costs, and whether anybody repeated it. */
export function ComposeView({ operator }: { operator: OperatorView }) {
  const saved = useLive((state) => state.beacon);
  const drafted = useDraftedForm<BeaconSettings>({
    draft: 'beacon',
    resolver: classValidatorResolver(BeaconSettings),
    mode: 'onChange',
    saved: saved ? settingsOf(saved) : firstBeacon(operator),
  });
  const { form } = drafted;
  const frame = useFrameOf(useWatch({ control: form.control }) as BeaconSettings);
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(19rem,25rem)_1fr]">
      <div>
        <OperatorOnly>
          <BeaconFields form={form} />
          <div className="pt-4">
            <DraftedNotes drafted={drafted} labels={LABELS} />
          </div>
        </OperatorOnly>
      </div>
      <div className="flex min-w-0 flex-col gap-5">
        <StaleFrequency beacon={saved} />
        <OutgoingFrame frame={frame} />
        <Costs frame={frame} />
        <OperatorOnly>
          <SendPanel
            drafted={drafted}
            version={saved?.version}
            frame={frame}
            isSaved={saved !== null && !drafted.isBegun}
          />
        </OperatorOnly>
        <SentList />
      </div>
    </div>
  );
}

/** Announced an hour ago, or 30 km away: one tap says it anew. */
function StaleFrequency({ beacon }: { beacon: BeaconView | null }) {
  const { problem, isBusy, attempt } = useAttempt();
  if (!beacon?.frequencyStale) return null;
  return (
    <div
      role="status"
      className="flex flex-col items-start gap-2 border-l-[3px] border-look pl-3 text-[14.5px]"
    >
      <p>
        The voice frequency <b className="font-mono">{beacon.frequency}</b> is{' '}
        {beacon.frequencyStale === 'an hour old' ? 'an hour old' : 'from a place 30 km away'}, and is left out
        of your beacons.
      </p>
      <OperatorOnly>
        <span className="flex flex-wrap gap-2">
          <Button
            disabled={isBusy}
            onClick={() =>
              void attempt(() => command('PUT', '/beacon/frequency', { frequency: beacon.frequency }))
            }
          >
            I still listen there
          </Button>
          <Button
            disabled={isBusy}
            onClick={() => void attempt(() => command('PUT', '/beacon/frequency', { frequency: '' }))}
          >
            I listen nowhere
          </Button>
        </span>
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

const INTERVALS_MIN = [1, 5, 10, 30];
/** What it would cost at usual intervals. */
function Costs({ frame }: { frame: Outgoing | Malformed }) {
  const cost = useOwnCost();
  if (isMalformed(frame)) return null;
  const airMs = cost.airMs(frame.raw);
  return (
    <section aria-label="What it costs" className="border-t-[1.5px] border-ink pt-2.5">
      <h2>What it costs</h2>
      <table className="w-full max-w-[34rem] text-left text-[14px]">
        <thead className="text-[12.5px] text-ink3">
          <tr>
            <th scope="col" className="py-1 font-[500]">
              Every
            </th>
            <th scope="col" className="font-[500]">
              A day
            </th>
            <th scope="col" className="font-[500]">
              Channel, with copies
            </th>
            <th scope="col" className="font-[500]">
              Battery a day, {cost.watts} W at {VOLTS} V
            </th>
          </tr>
        </thead>
        <tbody className="font-mono">
          {INTERVALS_MIN.map((minutes) => (
            <tr key={minutes} className="border-t border-line">
              <td className="py-0.5">{minutes} min</td>
              <td>{1440 / minutes}</td>
              <td>{shareWords(airMs, 60 / minutes)}</td>
              <td>{Math.round(cost.milliampHours(airMs, 1440 / minutes))} mAh</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const LABELS = {
  source: 'Call with SSID',
  place: 'Place',
  symbolTable: 'Symbol table',
  symbolCode: 'Symbol',
  comment: 'Comment',
  path: 'Path',
  format: 'Form',
  messaging: 'Messages are taken',
  ambiguityDigits: 'Digits left out',
  altitudeM: 'Altitude',
  phgPowerW: 'Power',
  phgHeightM: 'Height',
  phgGainDb: 'Gain',
  frequency: 'Voice frequency',
} as const;

function settingsOf({
  version: _,
  frequencySinceMs: __,
  frequencyStale: ___,
  ...settings
}: BeaconView): BeaconSettings {
  return settings;
}

function firstBeacon(operator: OperatorView): BeaconSettings {
  return {
    source: operator.call,
    place: operator.position ? formatPlace(operator.position) : '',
    symbolTable: '/',
    symbolCode: '-',
    comment: '',
    path: 'WIDE1-1,WIDE2-1',
    format: 'plain',
    messaging: false,
    ambiguityDigits: 0,
    altitudeM: null,
    phgPowerW: null,
    phgHeightM: null,
    phgGainDb: null,
    frequency: '',
  };
}
