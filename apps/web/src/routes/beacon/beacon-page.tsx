import { useWatch } from 'react-hook-form';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { formatPlace } from '@mistpeak/core/geo/place';
import { BeaconSettings, type BeaconView } from '@mistpeak/contract/beacon';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useDraftedForm } from '../../live/drafted-form';
import { useLive } from '../../live/store';
import { DraftedNotes } from '../../pieces/drafted-notes';
import { OperatorOnly } from '../../pieces/operator-only';
import { BeaconFields } from './beacon-fields';
import { OutgoingFrame } from './outgoing-frame';
import { SendPanel } from './send-panel';
import { SentList } from './sent-list';
import { useFrameOf } from './frame-of';

/** What exactly goes out, what it costs, and whether anybody repeated it. */
export function BeaconPage() {
  const operator = useLive((state) => state.operator) as OperatorView;
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
    <div className="grid gap-x-9 gap-y-6 px-7 py-5 max-md:px-4 lg:grid-cols-[minmax(19rem,25rem)_1fr]">
      <div>
        <h1>Beacon</h1>
        <p className="pt-0.5 pb-4 text-[13.5px] text-ink2">
          A fixed position, sent by hand. Others see it on their maps.
        </p>
        <OperatorOnly>
          <BeaconFields form={form} />
          <div className="pt-4">
            <DraftedNotes drafted={drafted} labels={LABELS} />
          </div>
        </OperatorOnly>
      </div>
      <div className="flex min-w-0 flex-col gap-5">
        <OutgoingFrame frame={frame} />
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

const LABELS = {
  source: 'Call with SSID',
  place: 'Place',
  symbolTable: 'Symbol table',
  symbolCode: 'Symbol',
  comment: 'Comment',
  path: 'Path',
  compressed: 'Compressed',
} as const;

function settingsOf({ version: _, ...settings }: BeaconView): BeaconSettings {
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
    compressed: false,
  };
}
