import { encodePmtilesHeader, HEADER_OCTETS, type PmtilesHeader } from './header.js';

/** One tile of an archive. id: its number along the Hilbert curve, scale by scale (specification, "Tile ID"). */
export interface Tile {
  readonly id: number;
  readonly octets: Uint8Array;
}

/** Header and root directory have to lie within these first octets (specification, "Root Directory"). */
const ROOT_OCTETS = 16_384;
/** Entries of one leaf: its directory is a few kilobytes, which a reader fetches at once. */
const LEAF_ENTRIES = 2048;
const METADATA = new TextEncoder().encode('{}');

/** Tiles id to id + run − 1 stand at offset with this length; run 0: a leaf directory stands there. */
export interface DirectoryEntry {
  readonly id: number;
  readonly run: number;
  readonly length: number;
  readonly offset: number;
}

/**
 * The pieces of an archive in order, PMTiles version 3, nothing compressed: put one behind the other they are the file.
 * tiles: in order of their numbers, each once; those that follow one another with the same octets are kept once.
 */
export function packTiles(about: Omit<PmtilesHeader, 'parts'>, tiles: readonly Tile[]): Uint8Array[] {
  const entries: DirectoryEntry[] = [];
  const data: Uint8Array[] = [];
  let dataLength = 0;
  for (const { id, octets } of tiles) {
    const last = entries.at(-1);
    if (last && last.id + last.run === id && sameOctets(data.at(-1) as Uint8Array, octets)) {
      entries[entries.length - 1] = { ...last, run: last.run + 1 };
      continue;
    }
    entries.push({ id, run: 1, length: octets.length, offset: dataLength });
    data.push(octets);
    dataLength += octets.length;
  }
  const { root, leaves } = directories(entries);
  const metadataAt = HEADER_OCTETS + root.length;
  const leavesAt = metadataAt + METADATA.length;
  const header = encodePmtilesHeader(
    {
      ...about,
      parts: {
        root: { offset: HEADER_OCTETS, length: root.length },
        metadata: { offset: metadataAt, length: METADATA.length },
        leaves: { offset: leavesAt, length: leaves.length },
        data: { offset: leavesAt + leaves.length, length: dataLength },
      },
    },
    tiles.length,
  );
  return [header, root, METADATA, leaves, ...data];
}

function directories(entries: readonly DirectoryEntry[]): { root: Uint8Array; leaves: Uint8Array } {
  const whole = encodeDirectory(entries);
  if (HEADER_OCTETS + whole.length <= ROOT_OCTETS) return { root: whole, leaves: new Uint8Array() };
  const leaves: number[] = [];
  const root: DirectoryEntry[] = [];
  for (let from = 0; from < entries.length; from += LEAF_ENTRIES) {
    const leaf = encodeDirectory(entries.slice(from, from + LEAF_ENTRIES));
    const { id } = entries[from] as DirectoryEntry;
    root.push({ id, run: 0, length: leaf.length, offset: leaves.length });
    for (const octet of leaf) leaves.push(octet);
  }
  return { root: encodeDirectory(root), leaves: Uint8Array.from(leaves) };
}

/**
 * Specification, "Directories": how many; the steps between the numbers; the runs; the lengths; the offsets plus one, or 0
 * where an entry stands right behind the one before it. All as little-endian base 128.
 */
export function encodeDirectory(entries: readonly DirectoryEntry[]): Uint8Array {
  const octets: number[] = [];
  const put = (value: number): void => {
    // By division: a file's offsets pass 32 bits.
    for (; value > 127; value = Math.floor(value / 128)) octets.push((value % 128) + 128);
    octets.push(value);
  };
  put(entries.length);
  entries.forEach(({ id }, i) => put(id - (entries[i - 1]?.id ?? 0)));
  entries.forEach(({ run }) => put(run));
  entries.forEach(({ length }) => put(length));
  entries.forEach(({ offset }, i) => {
    const before = entries[i - 1];
    put(before && before.offset + before.length === offset ? 0 : offset + 1);
  });
  return Uint8Array.from(octets);
}

/** The other way; undefined: it ends too early. */
export function decodeDirectory(octets: Uint8Array): DirectoryEntry[] | undefined {
  let at = 0;
  const take = (): number => {
    let [value, place] = [0, 1];
    for (; at < octets.length; place *= 128) {
      const octet = octets[at++] as number;
      value += (octet % 128) * place;
      if (octet < 128) return value;
    }
    at = octets.length + 1;
    return 0;
  };
  const count = take();
  // Each entry takes four octets at least.
  if (4 * count > octets.length - at) return undefined;
  const column = (): number[] => Array.from({ length: count }, take);
  const [steps, runs, lengths, offsets] = [column(), column(), column(), column()];
  const entries: DirectoryEntry[] = [];
  for (const [i, step] of steps.entries()) {
    const before = entries.at(-1);
    const told = offsets[i] as number;
    if (told === 0 && !before) return undefined;
    const offset = told === 0 && before ? before.offset + before.length : told - 1;
    entries.push({
      id: (before?.id ?? 0) + step,
      run: runs[i] as number,
      length: lengths[i] as number,
      offset,
    });
  }
  return at > octets.length ? undefined : entries;
}

const sameOctets = (a: Uint8Array, b: Uint8Array): boolean =>
  a.length === b.length && a.every((octet, i) => octet === b[i]);
