import { seededDice } from '@mistpeak/core/network/dice';
import { USUAL_ACCESS } from '@mistpeak/core/network/channel';
import { hopsOfPath, type Lab, type LabStation, type Sender } from '@mistpeak/core/path-lab/lab';
import { reckonLevels } from '@mistpeak/core/path-lab/level-table';
import { runLab } from '@mistpeak/core/path-lab/run';
import { bullingtonLossDb } from '@mistpeak/core/propagation/bullington';
import { deltaBullingtonLossDb } from '@mistpeak/core/propagation/delta-bullington';
import { wavelengthM } from '@mistpeak/core/propagation/free-space';
import { EFFECTIVE_EARTH_KM } from '@mistpeak/core/propagation/profile';

const MHZ = 144.8;
const STATIONS = 200;
const PACKETS = 10_000;
const MIDDLE = { latitudeDeg: -29.6, longitudeDeg: -11.4 };

/** Profiles against a plain loop of the same arithmetic, and many packets against a plain loop over all who could hear each. */
export function pathsBenchmark(): void {
  profiles();
  packets();
}

function profiles(): void {
  const dice = seededDice(1);
  const length = 400;
  const distancesKm = Float64Array.from({ length }, (_, i) => i * 0.1);
  const heightsM = Float64Array.from({ length }, () => 300 * dice());
  const profile = { distancesKm, heightsM, antenna1M: 10, antenna2M: 2 };
  const λ = wavelengthM(MHZ);
  const plain = rate(length, () => plainLoss(distancesKm, heightsM, 10, 2, λ));
  const bullington = rate(length, () => bullingtonLossDb(profile, λ));
  const whole = rate(length, () => deltaBullingtonLossDb(profile, MHZ, λ));
  console.log(
    `  profile points a second, plain loop ${million(plain)}: Bullington ${million(bullington)}, ratio ${(bullington / plain).toFixed(2)} (aim 0.3); ` +
      `delta-Bullington, which goes through them three times, ${million(whole)}, ratio ${((3 * whole) / plain).toFixed(2)} of three loops`,
  );
}

/** Bullington's two horizons and its one edge, written down in one loop (ITU-R P.526). */
function plainLoss(
  km: Float64Array,
  m: Float64Array,
  antenna1M: number,
  antenna2M: number,
  λ: number,
): number {
  const last = km.length - 1;
  const d = km[last] as number;
  const [a, b] = [(m[0] as number) + antenna1M, (m[last] as number) + antenna2M];
  let [up, down] = [-Infinity, -Infinity];
  for (let i = 1; i < last; i++) {
    const x = km[i] as number;
    const h = (m[i] as number) + (500 * x * (d - x)) / EFFECTIVE_EARTH_KM;
    up = Math.max(up, (h - a) / x);
    down = Math.max(down, (h - b) / (d - x));
  }
  const x = (b - a + down * d) / (up + down);
  const nu = (up * x - ((b - a) * x) / d) * Math.sqrt((0.002 * d) / (λ * x * (d - x)));
  const j = nu <= -0.78 ? 0 : 6.9 + 20 * Math.log10(Math.sqrt((nu - 0.1) ** 2 + 1) + nu - 0.1);
  return j + (1 - Math.exp(-j / 6)) * (10 + 0.02 * d);
}

/** Calls a second times so many points. */
function rate(points: number, once: () => number): number {
  let sum = 0;
  for (let i = 0; i < 2000; i++) sum += once();
  const begun = performance.now();
  const calls = 8000;
  for (let i = 0; i < calls; i++) sum += once();
  if (Number.isNaN(sum)) throw new Error('the loss is no number');
  return (calls * points * 1000) / (performance.now() - begun);
}

function packets(): void {
  const dice = seededDice(2);
  const stations = Array.from({ length: STATIONS }, (_, i): LabStation => {
    const role = i < 12 ? 'digipeater' : i < 20 ? 'fill-in' : i < 26 ? 'gateway' : 'station';
    return {
      call: `QH9${String(i).padStart(3, 'A')}`,
      role,
      end: {
        position: {
          latitudeDeg: MIDDLE.latitudeDeg + dice() - 0.5,
          longitudeDeg: MIDDLE.longitudeDeg + dice() - 0.5,
        },
        heightM: role === 'digipeater' ? 20 : 4,
        powerW: 10,
        gainDbi: role === 'digipeater' ? 3 : -10,
        thresholdDbm: -113,
      },
      packetsPerHour: role === 'station' ? 4 : 2,
      path: 'WIDE1-1,WIDE2-1',
      octets: 40,
    };
  });
  const lab: Lab = { stations, frequencyMHz: MHZ, airRate: 1200, access: USUAL_ACCESS };
  const end = { position: MIDDLE, heightM: 2, powerW: 5, gainDbi: -5, thresholdDbm: -113 };
  const sender: Sender = { call: 'QH4MPK-7', end, places: [MIDDLE], octets: 40 };
  const hills = ({ latitudeDeg, longitudeDeg }: typeof MIDDLE): number =>
    150 + 150 * Math.sin(latitudeDeg * 60) * Math.cos(longitudeDeg * 50);
  let begun = cpuMs();
  const table = finish(reckonLevels(lab, sender, hills));
  const levelsS = (cpuMs() - begun) / 1000;
  begun = cpuMs();
  const path = hopsOfPath('WIDE1-1,WIDE2-1');
  const fates = finish(runLab(lab, sender, table, { path, packets: PACKETS, seed: 1 }));
  const hops = fates.reduce((sum, { copies }) => sum + copies, 0);
  const runS = (cpuMs() - begun) / 1000;
  const plainS = plainHops(hops) / 1000;
  console.log(
    `  ${STATIONS} stations: levels of all pairs over hills ${levelsS.toFixed(1)} s; ${PACKETS} packets and ${fates.length - PACKETS} of the others in ${runS.toFixed(1)} s: ` +
      `${million(hops / runS)} packet-hops a second, each heard by ${STATIONS}; a plain loop over the same levels ${million(hops / plainS)}, ratio ${(plainS / runS).toFixed(2)} (aim 0.3)`,
  );
}

/** What this process has worked, ms: whoever else wants the machine does not count. */
const cpuMs = (): number => process.cpuUsage().user / 1000;

/** The least that so many hops take: for each, at each station, the sum of two levels in mW against a threshold. */
function plainHops(hops: number): number {
  const levels = Float64Array.from({ length: STATIONS * STATIONS }, (_, i) => -120 + (i % 60));
  const begun = cpuMs();
  let read = 0;
  for (let hop = 0; hop < hops; hop++) {
    const row = (hop % STATIONS) * STATIONS;
    for (let by = 0; by < STATIONS; by++) {
      const dbm = levels[row + by] as number;
      const rival = 10 ** ((levels[row + ((by + 1) % STATIONS)] as number) / 10);
      if (dbm >= -113 && dbm - 10 * Math.log10(rival) >= 6) read++;
    }
  }
  if (read < 0) throw new Error('nothing was read');
  return cpuMs() - begun;
}

function finish<Result>(run: Generator<unknown, Result>): Result {
  let next = run.next();
  while (!next.done) next = run.next();
  return next.value;
}

const million = (value: number): string =>
  value >= 1e6 ? `${(value / 1e6).toFixed(1)} million` : `${Math.round(value / 1000)} thousand`;
