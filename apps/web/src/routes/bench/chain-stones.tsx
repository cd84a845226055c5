import { Fragment, type ReactNode } from 'react';
import type { Rung } from '@mistpeak/core/proof/evidence';
import type { Camp } from '@mistpeak/core/proof/ladder';
import { REGIONS } from '@mistpeak/contract/operator';
import type { Climb } from '../../live/climb';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { CampMark } from '../../pieces/camp-mark';
import { describeCamp } from '../../pieces/camp-words';

interface Stone {
  readonly title: string;
  readonly about: ReactNode;
  readonly figures: string;
}

interface Joint {
  readonly name: string;
  readonly camp: Camp;
  readonly proved: string;
}

/** The chain stone by stone; a joint carries what is proved there. */
export function ChainStones({ climb: { link, chain, camps } }: { climb: Climb }) {
  const operator = useLive((state) => state.operator);
  const beacon = useLive((state) => state.beacon);
  const channel = REGIONS.find(({ id }) => id === operator?.region)?.channelMHz;
  const { settings } = link;
  const stones: Stone[] = [
    {
      title: chain.radio,
      about: channel === undefined ? 'FM' : `${channel.toFixed(3)} MHz, FM`,
      figures: chain.isMoving ? 'on the move' : 'at a fixed place',
    },
    {
      title: settings.name,
      about: `KISS, ${settings.airRate} Bd`,
      figures: `TXDELAY ${settings.txDelayMs} ms`,
    },
    {
      title: chain.host,
      about: link.standIn ? 'stand-in link: no radio' : 'no internet needed',
      figures: 'Mistpeak',
    },
    {
      title: beacon?.source ?? operator?.call ?? '',
      about: chain.purpose === 'receive' ? 'receive only' : 'beacon by hand',
      figures: beacon ? beacon.path || 'direct, no path' : 'not set up yet',
    },
  ];
  const way = settings.kind === 'network' ? `${settings.host}:${settings.port}` : (settings.device ?? '');
  const joints: Joint[] = [
    { name: chain.cable, camp: find(camps, 'packet decoded'), proved: 'hearing' },
    {
      name: settings.kind === 'network' ? 'KISS over TCP' : 'serial',
      camp: find(camps, 'port open'),
      proved: way,
    },
    {
      name: 'transmit',
      camp: transmitCamp(camps),
      proved: chain.purpose === 'receive' ? 'not wanted' : 'repeated',
    },
  ];
  return (
    <ol
      aria-label="The chain"
      className="grid items-stretch max-md:grid-cols-1 md:grid-cols-[1.1fr_96px_1fr_96px_1fr_96px_1fr]"
    >
      {stones.map((stone, i) => (
        <Fragment key={i}>
          {i > 0 && <JointMark joint={joints[i - 1] as Joint} />}
          <li className="min-w-0 rounded-[9px] border border-line bg-raise px-3.5 py-2.5">
            <p className="truncate text-[14.5px] font-[650]" title={stone.title}>
              {stone.title}
            </p>
            <p className="truncate text-[13px] text-ink2">{stone.about}</p>
            <p className="truncate font-mono text-[12.5px] text-ink2">{stone.figures}</p>
          </li>
        </Fragment>
      ))}
    </ol>
  );
}

function find(camps: readonly Camp[], rung: Rung): Camp {
  return camps.find((one) => one.rung === rung) ?? { rung, state: 'dark', freshness: 0 };
}

/** Transmitting is proved by an echo, and doubtful when an attempt brought none. */
function transmitCamp(camps: readonly Camp[]): Camp {
  const keyed = find(camps, 'keyed');
  return keyed.state === 'doubtful' ? keyed : find(camps, 'repeated');
}

function JointMark({ joint: { name, camp, proved } }: { joint: Joint }) {
  const nowMs = useNow();
  const isProved = camp.state === 'lit';
  const line = isProved
    ? 'border-proved'
    : camp.state === 'doubtful'
      ? 'border-dashed border-look'
      : 'border-dashed border-ink3';
  return (
    <li className="flex flex-col items-center justify-center gap-0.5 text-center text-[11.5px] leading-tight text-ink3 max-md:flex-row max-md:gap-2 max-md:py-1.5">
      <span className="flex w-full items-center max-md:w-auto">
        <span aria-hidden className={`flex-1 border-t-[2.5px] max-md:hidden ${line}`} />
        <CampMark state={camp.state} size={18} />
        <span aria-hidden className={`flex-1 border-t-[2.5px] max-md:hidden ${line}`} />
      </span>
      <span className="w-full truncate px-1 max-md:w-auto" title={name}>
        {name}
      </span>
      <span className="w-full truncate px-1 font-mono max-md:w-auto" title={proved}>
        {isProved ? proved : describeCamp(camp, nowMs)}
      </span>
    </li>
  );
}
