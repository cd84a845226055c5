import { transmitAmps } from '@mistpeak/core/beacon/cost';
import { NATURES, type Chemistry } from '@mistpeak/core/power/battery';
import type { Item } from '@mistpeak/core/kit/item';
import type { ChainView } from '@mistpeak/contract/chain';
import type { FieldSettings, LoadSettings, WireSettings } from '@mistpeak/contract/field';
import { command } from '../../api';
import { useAttempt, type Attempt } from '../../live/attempt';
import { isAlike, useDraft, type Draft } from '../../live/draft';
import { useOwnRadio } from '../../live/own-radio';
import { useLive } from '../../live/store';

/** What the form holds; the server’s version is not the form’s. */
export type Written = Omit<FieldSettings, 'version'>;

export const BUS_V = 12.8;
const USUAL_MHZ = 144.8;

/** Cells in series of a bank of 12 V. */
export const cellsOf12V = (chemistry: Chemistry): number => NATURES[chemistry].cellsOf12V;

/** To a tenth of an ampere: more nobody knows of a set. */
const keyedAmps = (powerW: number): number => Math.round(transmitAmps({ powerW, volts: BUS_V }) * 10) / 10;

/** What draws, by the kit: the parts of the chain that live on the field battery, and the transmitter while it is keyed. */
export function loadsOf(parts: readonly Item[], watts: number, keyedPercent: number): LoadSettings[] {
  const drawing = parts.filter(({ drawMilliamps }) => (drawMilliamps ?? 0) > 0);
  return [
    ...drawing.map(({ name, drawMilliamps = 0 }) => ({
      name,
      amps: drawMilliamps / 1000,
      sharePercent: 100,
    })),
    {
      name: 'Transmitting',
      amps: keyedAmps(watts),
      sharePercent: keyedPercent,
    },
  ];
}

/** Where nothing was told yet: a usual battery, the radio’s wire, the antenna of the chain. */
function usual(chain: ChainView | undefined, watts: number, antenna: Written['antenna']): Written {
  const wire: WireSettings = { name: 'Battery to radio', oneWayM: 3, areaMm2: 4, amps: keyedAmps(watts) };
  return {
    bank: { chemistry: 'lead-acid', ampHours: 40, cells: 6 },
    loads: loadsOf(chain?.parts ?? [], watts, 1),
    panelW: 0,
    skyPercent: 60,
    wires: [wire],
    antenna,
  };
}

export interface Field extends Draft<Written> {
  readonly attempt: Attempt;
  readonly isSaved: boolean;
  readonly save: () => Promise<void>;
  /** As the kit and the chain on the Bench say. */
  readonly fromKit: () => LoadSettings[];
}

/** One form over three parts: what feeds the station, its wires, its antenna. */
export function useField(): Field {
  const saved = useLive((state) => state.field.settings);
  const chain = useLive((state) => state.chains.find(({ onBench }) => onBench));
  const { watts, antenna } = useOwnRadio();
  const attempt = useAttempt();
  const { version, ...settings } = saved ?? { version: undefined };
  const begun: Written = saved
    ? (settings as Written)
    : usual(chain, watts, {
        frequencyMHz: USUAL_MHZ,
        powerW: watts,
        gainDbi: antenna?.gainDbi ?? 0,
        feedLossDb: antenna?.feedLossDb ?? 0,
        keyedPercent: 10,
        rule: 'FCC',
        group: 'public',
        isHandheld: watts <= 8,
      });
  const draft = useDraft<Written>('field', begun);
  return {
    ...draft,
    attempt,
    isSaved: saved !== undefined && isAlike(draft.values, begun),
    save: async () => {
      const body = { ...draft.values, ...(version === undefined ? {} : { version }) };
      if (await attempt.attempt(() => command('PUT', '/field', body))) draft.drop();
    },
    fromKit: () =>
      loadsOf(
        chain?.parts ?? [],
        watts,
        draft.values.loads.find(({ name }) => name === 'Transmitting')?.sharePercent ?? 1,
      ),
  };
}
