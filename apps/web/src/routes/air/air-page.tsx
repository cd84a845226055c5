import { useMemo, useState } from 'react';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useLive } from '../../live/store';
import { ChannelLanes } from '../../pieces/channel-lanes';
import { FrameWay } from '../../pieces/frame-way';
import { FrameLog } from './frame-log';
import { StationList } from './station-list';

/** Who is there, how did it reach me, was I heard? One selection across lanes, log and list. */
export function AirPage() {
  const operator = useLive((state) => state.operator) as OperatorView;
  const frames = useLive((state) => state.frames);
  const [selected, select] = useState<string>();
  const record = useMemo(() => frames.find(({ id }) => id === selected), [frames, selected]);
  return (
    <div className="flex min-h-full flex-col md:h-full md:min-h-0">
      <h1 className="sr-only">Air</h1>
      <section
        aria-label="The last five minutes on the channel"
        className="border-b border-ink bg-sheet px-6 pt-3 pb-1 max-md:px-4"
      >
        <ChannelLanes frames={frames} selected={selected} select={select} />
      </section>
      <div className="grid min-h-0 flex-1 md:grid-cols-[1fr_300px]">
        <div className="flex min-h-0 min-w-0 flex-col max-md:order-2">
          {record && (
            <div className="border-b border-line bg-raise px-6 py-3 max-md:px-4">
              <FrameWay record={record} manner={operator} />
            </div>
          )}
          <FrameLog frames={frames} operator={operator} selected={selected} select={select} />
        </div>
        <StationList operator={operator} frames={frames} selected={selected} select={select} />
      </div>
    </div>
  );
}
