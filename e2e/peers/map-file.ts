import { crc32, deflateSync } from 'node:zlib';

/**
 * A small PMTiles archive of version 3 (its specification, "Header", "Directories") with one uncompressed vector tile at zoom 0
 * (Mapbox Vector Tile specification 2.1), written here and not by the product's codec: the tests' own map.
 */
const HEADER = 127;

function varint(value: number): number[] {
  const octets: number[] = [];
  let left = value;
  while (left > 127) {
    octets.push((left % 128) + 128);
    left = Math.floor(left / 128);
  }
  return [...octets, left];
}
const field = (number: number, wire: number): number[] => varint(number * 8 + wire);
const bytes = (number: number, octets: readonly number[]): number[] => [
  ...field(number, 2),
  ...varint(octets.length),
  ...octets,
];
const text = (number: number, value: string): number[] => bytes(number, [...Buffer.from(value)]);
const zigzag = (value: number): number => (value < 0 ? -2 * value - 1 : 2 * value);

/** Fine enough for an island at zoom 0: about 40 m. */
const EXTENT = 2 ** 20;

function tilePoint([longitude, latitude]: readonly [number, number]): [number, number] {
  const y = Math.log(Math.tan(Math.PI / 4 + (latitude * Math.PI) / 360));
  return [Math.round(((longitude + 180) / 360) * EXTENT), Math.round(((1 - y / Math.PI) / 2) * EXTENT)];
}

export interface MapShape {
  readonly layer: string;
  readonly kind: string;
  readonly name?: string;
  readonly form: 'point' | 'line' | 'area';
  /** Longitude, latitude. */
  readonly points: readonly (readonly [number, number])[];
}

function geometry({ form, points }: MapShape): number[] {
  let [x, y] = [0, 0];
  const step = (point: readonly [number, number]): number[] => {
    const [toX, toY] = tilePoint(point);
    const moved = [zigzag(toX - x), zigzag(toY - y)];
    [x, y] = [toX, toY];
    return moved;
  };
  const [first, ...rest] = points;
  const commands = [1 | (1 << 3), ...step(first as [number, number])];
  if (form !== 'point') commands.push(2 | (rest.length << 3), ...rest.flatMap(step));
  if (form === 'area') commands.push(7 | (1 << 3));
  return commands;
}

function layerOf(name: string, shapes: readonly MapShape[]): number[] {
  const values = shapes.flatMap((shape) => [shape.kind, shape.name ?? '']);
  const features = shapes.map((shape, i) =>
    bytes(2, [
      ...bytes(2, [0, 2 * i, 1, 2 * i + 1].flatMap(varint)),
      ...field(3, 0),
      ...varint({ point: 1, line: 2, area: 3 }[shape.form]),
      ...bytes(4, geometry(shape).flatMap(varint)),
    ]),
  );
  return [
    ...text(1, name),
    ...features.flat(),
    ...text(3, 'kind'),
    ...text(3, 'name'),
    ...values.flatMap((value) => bytes(4, text(1, value))),
    ...field(5, 0),
    ...varint(EXTENT),
    ...field(15, 0),
    ...varint(2),
  ];
}

/** The whole file. bounds: west, south, east, north. */
export function mapFile(
  shapes: readonly MapShape[],
  bounds: readonly [number, number, number, number],
): Buffer {
  const layers = [...new Set(shapes.map(({ layer }) => layer))];
  const tile = layers.flatMap((layer) =>
    bytes(
      3,
      layerOf(
        layer,
        shapes.filter((shape) => shape.layer === layer),
      ),
    ),
  );
  return archive(tile, VECTOR, bounds);
}

/** Types of tiles (its specification, "Tile Type"). */
const VECTOR = 1;
const PNG = 2;

/** A map of one picture for all of the earth, in one colour: PNG (ISO/IEC 15948) of 256 by 256 points. */
export function pictureFile(
  rgb: readonly [number, number, number],
  bounds: readonly [number, number, number, number],
): Buffer {
  const chunk = (type: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const [length, check] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    check.writeUInt32BE(crc32(body));
    return Buffer.concat([length, body, check]);
  };
  const size = Buffer.from([0, 0, 1, 0]);
  const row = Buffer.concat([Buffer.from([0]), ...Array.from({ length: 256 }, () => Buffer.from(rgb))]);
  const png = Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    // Eight bits of each colour, no filter of the whole, not interlaced.
    chunk('IHDR', Buffer.concat([size, size, Buffer.from([8, 2, 0, 0, 0])])),
    chunk('IDAT', deflateSync(Buffer.concat(Array.from({ length: 256 }, () => row)))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
  return archive([...png], PNG, bounds);
}

function archive(
  tile: readonly number[],
  type: number,
  bounds: readonly [number, number, number, number],
): Buffer {
  // One entry: tile 0, run 1, its length, offset 0 (written plus one).
  const directory = [1, 0, 1, ...varint(tile.length), 1];
  const metadata = [...Buffer.from('{}')];
  const header = Buffer.alloc(HEADER);
  header.write('PMTiles');
  header[7] = 3;
  const dataAt = HEADER + directory.length + metadata.length;
  const parts = [
    HEADER,
    directory.length,
    HEADER + directory.length,
    metadata.length,
    dataAt,
    0,
    dataAt,
    tile.length,
  ];
  for (const [i, value] of parts.entries()) header.writeBigUInt64LE(BigInt(value), 8 + 8 * i);
  for (const at of [72, 80, 88]) header.writeBigUInt64LE(1n, at);
  header.set([1, 1, 1, type, 0, 0], 96);
  for (const [i, degrees] of bounds.entries()) header.writeInt32LE(Math.round(degrees * 1e7), 102 + 4 * i);
  return Buffer.concat([header, Buffer.from(directory), Buffer.from(metadata), Buffer.from(tile)]);
}
