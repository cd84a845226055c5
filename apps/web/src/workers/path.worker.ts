import { isMalformed } from '@mistpeak/core/bits/malformed';
import { decodeElevationTile, type ElevationTile } from '@mistpeak/core/geo/elevation-tile';
import type { Position } from '@mistpeak/core/geo/position';
import { Terrain, tilesBetween } from '@mistpeak/core/geo/terrain';
import { situationOf } from '@mistpeak/core/path-lab/advice';
import { comparePaths } from '@mistpeak/core/path-lab/compare';
import { judgeFillIn } from '@mistpeak/core/path-lab/fill-in';
import { followPacket } from '@mistpeak/core/path-lab/follow';
import type { Lab } from '@mistpeak/core/path-lab/lab';
import { reckonLevels } from '@mistpeak/core/path-lab/level-table';
import { bestSpots } from '@mistpeak/core/propagation/best-spots';
import { reachBetween } from '@mistpeak/core/propagation/margin';
import { placesOfRay, reachMap } from '@mistpeak/core/propagation/reach-map';
import type { PathJob, PathJobs, PathReply, PathRequest } from './path-messages';

type Answer<Job extends PathJob> = PathJobs[Job]['answer'];
type Asked<Job extends PathJob> = PathJobs[Job]['asked'];

/** How far the levels are of the work of a comparison. */
const LEVELS_SHARE = 0.4;
const TOLD_EVERY_MS = 100;

self.onmessage = ({ data }: MessageEvent<PathRequest>): void => {
  work(data)
    .then((answer) => reply({ kind: 'done', answer }))
    .catch((error: unknown) => reply({ kind: 'failed', words: String(error) }));
};

const reply = (message: PathReply): void => self.postMessage(message);

let toldAtMs = -Infinity;
function tell(share: number): void {
  if (performance.now() - toldAtMs < TOLD_EVERY_MS) return;
  toldAtMs = performance.now();
  reply({ kind: 'progress', share });
}

async function work({ job, asked, tiles }: PathRequest): Promise<Answer<PathJob>> {
  switch (job) {
    case 'compare':
      return compare(asked, await terrainFor(tiles, [...asked.sender.places, ...placesOf(asked.lab)], 0));
    case 'fill-in':
      return fillIn(asked, await terrainFor(tiles, [...asked.sender.places, ...placesOf(asked.lab)], 0));
    case 'reach':
      return reach(asked, await terrainFor(tiles, [asked.here.position, asked.there.position], 0));
    case 'voice': {
      const places = [asked.here, ...asked.there].map(({ position }) => position);
      return voice(asked, await terrainFor(tiles, places, 0));
    }
    case 'gateways': {
      const places = [asked.here, ...asked.there.map(({ end }) => end)].map(({ position }) => position);
      return gateways(asked, await terrainFor(tiles, places, 0));
    }
    case 'map':
      return map(asked, await terrainFor(tiles, [asked.centre.position], asked.radiusKm));
    case 'spots':
      return spots(
        asked,
        await terrainFor(
          tiles,
          [asked.here, ...asked.ears].map(({ position }) => position),
          asked.radiusKm,
        ),
      );
  }
}

const placesOf = ({ stations }: Lab): Position[] => stations.map(({ end }) => end.position);

const known = new Map<string, ElevationTile>();

/** The tiles of the ground between these places, and round them, as far as the server has them. */
async function terrainFor(
  names: readonly string[],
  places: readonly Position[],
  radiusKm: number,
): Promise<Terrain> {
  const wanted = new Set(tilesBetween(places, radiusKm));
  for (const name of names) if (wanted.has(name) && !known.has(name)) await fetchTile(name);
  return new Terrain([...known.values()]);
}

async function fetchTile(name: string): Promise<void> {
  const answer = await fetch(`/api/v1/elevation/${name}`);
  if (!answer.ok) throw new Error(`the elevation tile ${name} could not be fetched`);
  const tile = decodeElevationTile(name, new Uint8Array(await answer.arrayBuffer()));
  if (!isMalformed(tile)) known.set(name, tile);
}

function finish<Result>(run: Generator<number, Result>, share: (part: number) => number): Result {
  let next = run.next();
  while (!next.done) {
    tell(share(next.value));
    next = run.next();
  }
  return next.value;
}

function compare(
  { lab, sender, paths, packets, seed }: Asked<'compare'>,
  terrain: Terrain,
): Answer<'compare'> {
  const ground = (at: Position): number => terrain.heightM(at);
  const table = finish(reckonLevels(lab, sender, ground), (part) => part * LEVELS_SHARE);
  const results = finish(
    comparePaths(lab, sender, table, { paths, packets, seed }),
    (part) => LEVELS_SHARE + part * (1 - LEVELS_SHARE),
  );
  return {
    results,
    situation: situationOf(lab, sender, table, results[0]?.heldByOthers ?? 0),
    stages: paths.map((path) => followPacket(lab, sender, table, path, seed)),
    isGroundKnown: sender.places.every((place) => terrain.covers(place)),
  };
}

function fillIn({ lab, sender, packets, seed }: Asked<'fill-in'>, terrain: Terrain): Answer<'fill-in'> {
  const table = finish(
    reckonLevels(lab, sender, (at) => terrain.heightM(at)),
    (part) => part * LEVELS_SHARE,
  );
  return finish(
    judgeFillIn(lab, sender, table, { packets, seed }),
    (part) => LEVELS_SHARE + part * (1 - LEVELS_SHARE),
  );
}

function reach({ here, there, frequencyMHz }: Asked<'reach'>, terrain: Terrain): Answer<'reach'> {
  const { profile, ...rest } = reachBetween(here, there, (at) => terrain.heightM(at), frequencyMHz);
  return {
    ...rest,
    distancesKm: Array.from(profile.distancesKm),
    heightsM: Array.from(profile.heightsM),
    antenna1M: profile.antenna1M,
    antenna2M: profile.antenna2M,
    isGroundKnown: terrain.covers(here.position) && terrain.covers(there.position),
  };
}

function voice({ here, there, frequencyMHz }: Asked<'voice'>, terrain: Terrain): Answer<'voice'> {
  const ground = (at: Position): number => terrain.heightM(at);
  const chances = there.map((end) => {
    const { there: out, back } = reachBetween(here, end, ground, frequencyMHz);
    return Math.min(out.chance, back.chance);
  });
  return { chances, isGroundKnown: terrain.covers(here.position) };
}

const SHOWN_HEIGHTS = 32;

function gateways({ here, there }: Asked<'gateways'>, terrain: Terrain): Answer<'gateways'> {
  const ground = (at: Position): number => terrain.heightM(at);
  const ways = there.map(({ key, end, frequencyMHz }, i) => {
    const {
      profile,
      clearance,
      distanceKm,
      there: out,
      back,
    } = reachBetween(here, end, ground, frequencyMHz);
    tell(i / there.length);
    const last = profile.heightsM.length - 1;
    const heightsM = Array.from(
      { length: SHOWN_HEIGHTS },
      (_, step) => profile.heightsM[Math.round((step * last) / (SHOWN_HEIGHTS - 1))] as number,
    );
    return {
      key,
      chance: Math.min(out.chance, back.chance),
      marginDb: Math.min(out.marginDb, back.marginDb),
      heightsM,
      ...(clearance.radii < 0 ? { blockedAt: clearance.km / distanceKm } : {}),
    };
  });
  return { ways, isGroundKnown: terrain.covers(here.position) };
}

function map(wish: Asked<'map'>, terrain: Terrain): Answer<'map'> {
  const rays: Answer<'map'>['rays'][number][] = [];
  for (const { bearingDeg, marginsDb } of reachMap(wish, (at) => terrain.heightM(at))) {
    const stepsKm = Array.from(marginsDb, (_, i) => (i + 1) * wish.stepKm);
    rays.push({ bearingDeg, marginsDb, places: placesOfRay(wish.centre.position, bearingDeg, stepsKm) });
    tell(rays.length / wish.bearings);
  }
  return { rays, isGroundKnown: terrain.covers(wish.centre.position) };
}

function spots(wish: Asked<'spots'>, terrain: Terrain): Answer<'spots'> {
  return {
    spots: bestSpots(wish, (at) => terrain.heightM(at)),
    isGroundKnown: terrain.covers(wish.here.position),
  };
}
