import { APRS_VECTORS } from '../aprs/aprs.vectors.js';
import { KIND_VECTORS } from '../aprs/kinds.vectors.js';
import { fuzz } from './testing/fuzz.js';

/** A sample of what `./mistpeak benchmark fuzz` does twenty million times. */
describe('random and mutated octets through KISS, AX.25 and APRS', () => {
  const infos = [...APRS_VECTORS, ...KIND_VECTORS].map(({ info }) => info);

  it('throw nothing, and come back as they were where they can be read', () => {
    const { failures, frames, reports } = fuzz(infos, 300_000, 1, () => performance.now());
    expect(failures).toEqual([]);
    expect(frames).toBeGreaterThan(100_000);
    expect(reports).toBeGreaterThan(60_000);
  });
});
