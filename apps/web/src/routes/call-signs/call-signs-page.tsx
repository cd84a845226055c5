import type { OperatorView } from '@mistpeak/contract/operator';
import { planCollisions } from '@mistpeak/core/own-calls/collisions';
import { useLive } from '../../live/store';
import { OperatorOnly } from '../../pieces/operator-only';
import { HeardOwnCalls } from '../../pieces/heard-own-calls';
import { Passcode } from './passcode';
import { SsidTable } from './ssid-table';

/** Who am I on each device, do two collide, and what is the passcode? */
export function CallSignsPage() {
  const operator = useLive((state) => state.operator) as OperatorView;
  const stations = useLive((state) => state.ownStations);
  const collisions = planCollisions(stations);
  return (
    <div className="grid gap-x-9 gap-y-6 px-7 py-5 max-md:px-4 lg:grid-cols-[1fr_20rem]">
      <div className="min-w-0">
        <h1>
          Call signs of <span className="font-mono">{operator.call}</span>
          {operator.isDemo && <DemoMark />}
        </h1>
        <p className="max-w-[46rem] pt-0.5 pb-3 text-[13.5px] text-ink2">
          One licence call, many stations: the SSID tells them apart. Two schools: the <i>convention</i>,
          which others read into the number, and <i>free choice</i>. Any number may be used; where others will
          misread it, it says so.
        </p>
        {collisions.map(({ call, devices }) => (
          <p
            key={call}
            role="alert"
            className="mb-3 border-l-[3px] border-stop bg-raise px-3 py-2 text-[14px]"
          >
            <b className="text-stop">
              Two devices use <span className="font-mono">{call}</span>
            </b>{' '}
            ({devices.join(', ')}): on others’ maps one station jumps about, and a message acknowledged by the
            wrong one is lost. Give one of them another SSID.
          </p>
        ))}
        <OperatorOnly>
          <SsidTable operator={operator} stations={stations} />
        </OperatorOnly>
      </div>
      <div className="flex flex-col gap-6">
        <HeardOwnCalls operator={operator} />
        <Passcode call={operator.call} />
      </div>
    </div>
  );
}

function DemoMark() {
  return (
    <span
      className="ml-3 rounded-full border-[1.5px] border-look px-2.5 py-0.5 align-middle text-[13px] font-[600] text-look"
      title="Calls beginning with Q belong to nobody"
    >
      demo call: stand-ins only
    </span>
  );
}
