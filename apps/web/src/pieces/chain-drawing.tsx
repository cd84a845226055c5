import { Fragment } from 'react';
import { chainState, type Chain, type Finding, type Joint, type Stone } from '@mistpeak/core/chain/chain';
import { SWITCHES, type SwitchId } from '@mistpeak/core/kit/switches';
import { connectorName } from '@mistpeak/core/kit/connectors';
import type { Item } from '@mistpeak/core/kit/item';

/** A joint as it is drawn: cables are what joins, so theirs are one with it. */
export interface DrawnJoint {
  readonly name: string;
  readonly findings: readonly Finding[];
  readonly state: ReturnType<typeof chainState>;
}

export interface DrawnChain {
  readonly stones: readonly Stone[];
  /** joints[i] leads from stones[i] to stones[i + 1]. */
  readonly joints: readonly DrawnJoint[];
}

/** The stones that stand for themselves, and between them what joins them, cables included. */
export function drawChain({ stones, joints }: Chain): DrawnChain {
  const standing = stones.filter(({ item }) => item.kind !== 'cable');
  const drawn = standing.slice(1).map((stone, i): DrawnJoint => {
    const from = stones.indexOf(standing[i] as Stone);
    const to = stones.indexOf(stone);
    const crossed: readonly Joint[] = joints.slice(from, to);
    const cables = stones
      .slice(from + 1, to)
      .map(({ item, isMissing }) => (isMissing ? `${item.name}?` : item.name));
    const findings = crossed.flatMap((joint) => joint.findings);
    return {
      name: cables.length > 0 ? cables.join(', ') : (crossed.at(-1)?.name ?? ''),
      findings,
      state: chainState({ joints: crossed }),
    };
  });
  return { stones: standing, joints: drawn };
}

const LINE = {
  holds: 'border-ink3',
  switches: 'border-dashed border-look',
  breaks: 'border-stop',
} as const;

const INK = { holds: 'text-ink3', switches: 'text-look', breaks: 'text-stop' } as const;

/** Stones and joints, drawn alike whether the chain works or breaks, so that one sees where it breaks. */
export function ChainDrawing({ chain, label }: { chain: Chain; label: string }) {
  const { stones, joints } = drawChain(chain);
  const isTight = stones.length > 5;
  return (
    <ol aria-label={label} className="flex items-stretch max-md:flex-col">
      {stones.map((stone, i) => (
        <Fragment key={stone.item.id}>
          {i > 0 && <JointLine joint={joints[i - 1] as DrawnJoint} isTight={isTight} />}
          <StoneBox stone={stone} isTight={isTight} />
        </Fragment>
      ))}
    </ol>
  );
}

function StoneBox({ stone: { item, isMissing }, isTight }: { stone: Stone; isTight: boolean }) {
  return (
    <li
      className={`max-w-[12rem] min-w-0 flex-[0_1_auto] rounded-[9px] border py-1.5 max-md:max-w-none max-md:px-3 ${isTight ? 'px-2' : 'px-3'} ${
        isMissing ? 'border-dashed border-stop bg-paper' : 'border-ink bg-raise'
      } ${item.isHere ? '' : 'opacity-70'}`}
    >
      <p
        className={`leading-tight font-[650] max-md:text-[14px] ${isTight ? 'text-[12.5px]' : 'text-[14px]'}`}
      >
        {item.name}
        {isMissing && <span className="text-stop"> (to get)</span>}
      </p>
      <p className="font-mono text-[12px] leading-snug text-ink2">{stoneWords(item)}</p>
    </li>
  );
}

function JointLine({ joint: { name, findings, state }, isTight }: { joint: DrawnJoint; isTight: boolean }) {
  const told =
    findings.find(({ level }) => level === 'breaks') ?? findings.find(({ level }) => level === 'switch');
  return (
    <li
      className={`${isTight ? 'min-w-[3.7rem]' : 'min-w-[4.6rem]'} grid flex-1 grid-rows-[1fr_auto_1fr] text-center max-md:flex max-md:flex-row max-md:items-center max-md:justify-start max-md:gap-2.5 max-md:py-1 max-md:pl-6 max-md:text-left`}
    >
      <span aria-hidden className="row-start-2 flex items-center max-md:w-6 max-md:rotate-90">
        <span className={`flex-1 border-t-[2.5px] ${LINE[state]}`} />
        {state === 'breaks' && (
          <svg width="34" height="14" viewBox="0 0 34 14" className="text-stop max-md:w-5">
            <path d="M4 13 9 1M25 13 30 1" stroke="currentColor" strokeWidth="2.5" />
          </svg>
        )}
        <span className={`flex-1 border-t-[2.5px] ${LINE[state]}`} />
      </span>
      <span className={`row-start-3 px-1 pt-1 text-[12px] leading-tight max-md:pt-0 ${INK[state]}`}>
        {told ? told.text : name}
        {told && <span className="sr-only"> ({name})</span>}
      </span>
    </li>
  );
}

/** A stone's second line: what decides about it. */
function stoneWords(item: Item): string {
  const switches = Object.entries(item.switches)
    .filter(([id, now]) => now !== '' && SHOWN_SWITCHES.includes(id as SwitchId))
    .map(([id, now]) => `${SWITCHES[id as SwitchId].name} ${now}`);
  if (switches.length > 0) return switches.slice(0, 2).join(', ');
  if (item.app?.isMistpeak) return 'this program';
  return portWords(item) || item.about;
}

const SHOWN_SWITCHES: readonly SwitchId[] = ['kiss', 'vox', 'ownBeacon', 'tcpPort'];

/** The ports of an item in one line. */
export function portWords({ ports }: Item): string {
  return [
    ...new Set(
      ports
        .filter(({ connector }) => connector !== 'open-air')
        .map(({ connector, profiles }) =>
          connector === 'bluetooth' && profiles?.length === 1
            ? `Bluetooth ${profiles[0]}`
            : connector === 'network'
              ? 'network'
              : connectorName(connector),
        ),
    ),
  ].join(' · ');
}
