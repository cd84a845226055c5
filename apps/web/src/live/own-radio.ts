import type { AntennaFacts } from '@mistpeak/core/kit/item';
import { useLive } from './store';

/** A handheld, where the kit says nothing (common practice, no source). */
const USUAL_WATTS = 5;

/** The radio of the chain on the Bench, else the first that transmits, and what the kit knows of its antenna. */
export function useOwnRadio(): { readonly watts: number; readonly antenna: AntennaFacts | undefined } {
  const kit = useLive((state) => state.kit);
  const chain = useLive((state) => state.chains.find(({ onBench }) => onBench));
  const item = chain?.parts.find(({ radio }) => radio) ?? kit.find(({ radio }) => radio?.transmits);
  const antenna = kit.find(({ kind, name }) => kind === 'antenna' && name === chain?.antenna);
  return { watts: item?.radio?.watts ?? USUAL_WATTS, antenna: antenna?.antenna };
}
