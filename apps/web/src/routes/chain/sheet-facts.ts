import type { Chain } from '@mistpeak/core/chain/chain';
import type { SheetFacts } from '@mistpeak/core/sheet/context';
import { useLive } from '../../live/store';

/** What the sheet takes from the operator: the call of the device that the chain is worked with, and the channel. */
export function useSheetFacts(chain: Chain, isMoving = false): SheetFacts {
  const operator = useLive((state) => state.operator);
  const stations = useLive((state) => state.ownStations);
  const channelMHz = operator?.channelMHz;
  const names = chain.stones.map(({ item }) => item.name.toLowerCase());
  const mine = stations.find(({ device }) => names.some((name) => name.includes(device.toLowerCase())));
  return {
    call: mine?.call ?? operator?.call ?? 'your call',
    isMoving,
    ...(channelMHz === undefined ? {} : { channelMHz }),
  };
}
