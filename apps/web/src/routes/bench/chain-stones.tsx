import { Fragment, type ReactNode } from 'react';
import { SWITCHES, type SwitchId } from '@mistpeak/core/kit/switches';
import type { Item } from '@mistpeak/core/kit/item';
import type { Rung } from '@mistpeak/core/proof/evidence';
import type { Camp } from '@mistpeak/core/proof/ladder';
import type { LinkKind, LinkView } from '@mistpeak/contract/link';
import type { Climb } from '../../live/climb';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { CampMark } from '../../pieces/camp-mark';
import { describeCamp } from '../../pieces/camp-words';

const WIRES: Readonly<Record<LinkKind, string>> = {
  network: 'KISS over TCP',
  serial: 'serial',
  'page-serial': 'serial, at a browser',
  'page-bluetooth': 'Bluetooth LE, at a browser',
  'page-sound': 'sound card, at a browser',
  'sound-card': 'sound card',
};

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

/** The chain stone by stone; a joint carries what is proved there. Cables are what joins, not what is joined. */
export function ChainStones({ climb }: { climb: Climb }) {
  const stones = useStones(climb);
  const joints = stones.slice(1).map((_, i) => jointBefore(climb, i + 1));
  const columns = stones.map((_, i) => (i === 0 ? '1.1fr' : '84px 1fr')).join(' ');
  return (
    <ol
      aria-label="The chain"
      className="grid items-stretch max-md:grid-cols-1! md:[grid-template-columns:var(--stones)]"
      style={{ '--stones': columns } as React.CSSProperties}
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

const standingParts = ({ chain }: Climb): readonly Item[] =>
  chain.parts.filter(({ kind }) => kind !== 'cable');

function useStones(climb: Climb): Stone[] {
  const operator = useLive((state) => state.operator);
  const beacon = useLive((state) => state.beacon);
  const channel = operator?.channelMHz;
  const { link, chain } = climb;
  return standingParts(climb).map((part): Stone => {
    if (part.radio)
      return {
        title: part.name,
        about:
          channel === undefined || part.radio.bands.includes('HF SSB')
            ? switchWords(part)
            : `${channel.toFixed(3)} MHz, FM`,
        figures: chain.isMoving ? 'on the move' : 'at a fixed place',
      };
    if (part.app?.isMistpeak)
      return {
        title: beacon?.source ?? operator?.call ?? '',
        about: chain.purpose === 'receive' ? 'receive only' : 'beacon by hand',
        figures: beacon ? beacon.path || 'direct, no path' : 'not set up yet',
      };
    if (part.kind === 'interface' && link && isLinkedHere(part, climb)) return linkStone(part, link);
    if (part.kind === 'host' && link)
      return {
        title: part.name,
        about: link.standIn ? 'stand-in link: no radio' : 'no internet needed',
        figures: 'Mistpeak',
      };
    return { title: part.name, about: part.about, figures: switchWords(part) };
  });
}

/** The last interface before the host is what the link leads to. */
const isLinkedHere = (part: Item, { chain }: Climb): boolean =>
  chain.parts.findLast(({ kind }) => kind === 'interface')?.id === part.id;

function linkStone({ name }: Item, { settings }: LinkView): Stone {
  return { title: name, about: `KISS, ${settings.airRate} Bd`, figures: `TXDELAY ${settings.txDelayMs} ms` };
}

function switchWords({ switches, version }: Item): string {
  const words = Object.entries(switches)
    .filter(([, now]) => now !== '')
    .map(([id, now]) => `${SWITCHES[id as SwitchId].name} ${now}`);
  return [...(version ? [`version ${version}`] : []), ...words].slice(0, 2).join(', ') || 'as it is';
}

function jointBefore(climb: Climb, at: number): Joint {
  const { camps, chain, link } = climb;
  const parts = standingParts(climb);
  const part = parts[at] as Item;
  const before = parts[at - 1] as Item;
  const cables = chain.parts
    .slice(chain.parts.indexOf(before) + 1, chain.parts.indexOf(part))
    .map(({ name }) => name);
  const name = cables[0] ?? nameOfJoint(climb, part);
  if (part.kind === 'host') {
    const settings = link?.settings;
    const way =
      settings?.kind === 'network' ? `${settings.host}:${settings.port}` : (settings?.device ?? 'open');
    return {
      name: settings ? WIRES[settings.kind] : name,
      camp: find(camps, 'port open'),
      proved: way,
    };
  }
  if (part.kind === 'app')
    return {
      name: link ? 'transmit' : name,
      camp: transmitCamp(camps),
      proved: chain.purpose === 'receive' ? 'not wanted' : link ? 'repeated' : 'seen',
    };
  return { name, camp: find(camps, 'packet decoded'), proved: 'hearing' };
}

/** As the rules name what joins there. */
function nameOfJoint({ joined }: Climb, part: Item): string {
  const at = joined?.stones.findIndex(({ item }) => item.id === part.id) ?? -1;
  return joined?.joints[at - 1]?.name ?? '';
}

function find(camps: readonly Camp[], rung: Rung): Camp {
  return camps.find((one) => one.rung === rung) ?? { rung, state: 'dark', freshness: 0 };
}

/** Transmitting is proved by an echo or an answer, and doubtful when an attempt brought none. */
function transmitCamp(camps: readonly Camp[]): Camp {
  const keyed = find(camps, 'keyed');
  if (keyed.state === 'doubtful') return keyed;
  const answered = camps.find(({ rung }) => rung === 'repeated' || rung === 'far station answered');
  return answered ?? keyed;
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
