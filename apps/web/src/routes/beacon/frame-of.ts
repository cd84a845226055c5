import { useMemo } from 'react';
import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { beaconFrame } from '@mistpeak/core/beacon/beacon';
import { parsePlace } from '@mistpeak/core/geo/place';
import type { BeaconSettings } from '@mistpeak/contract/beacon';

export interface Outgoing {
  readonly frame: Ax25Frame;
  readonly raw: Uint8Array;
}

/** The exact frame that these fields make, by the same core that the server sends with. */
export function useFrameOf(settings: BeaconSettings): Outgoing | Malformed {
  const key = JSON.stringify(settings);
  return useMemo(() => frameOf(JSON.parse(key) as BeaconSettings), [key]);
}

function frameOf(settings: BeaconSettings): Outgoing | Malformed {
  const position = parsePlace(settings.place);
  if (isMalformed(position)) return position;
  const { source, symbolTable, symbolCode, comment, path, compressed } = settings;
  const symbol = { table: symbolTable, code: symbolCode };
  const frame = beaconFrame({
    source,
    position,
    symbol,
    comment,
    path,
    compressed,
  });
  return isMalformed(frame) ? frame : { frame, raw: encodeFrame(frame) };
}
