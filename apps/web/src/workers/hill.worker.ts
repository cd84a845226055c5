import { isMalformed } from '@mistpeak/core/bits/malformed';
import { decodeElevationTile } from '@mistpeak/core/geo/elevation-tile';
import { contourLines, type ContourLine } from '@mistpeak/core/geo/contours';
import { hillshade } from '@mistpeak/core/geo/hillshade';

export interface HillWish {
  readonly name: string;
  /** Inks of the present light, as hex. */
  readonly shade: string;
  readonly light: string;
}

export interface HillReply {
  readonly picture?: Blob;
  readonly westDeg: number;
  readonly southDeg: number;
  readonly contours?: readonly ContourLine[];
}

const LEVEL = 128;
/** The finest of which a hill of its height has no more than about forty. */
const STEPS_M = [20, 50, 100, 200] as const;
const MOST_LINES = 40;

self.onmessage = ({ data }: MessageEvent<HillWish>): void => {
  void draw(data).then(
    (reply) => self.postMessage(reply),
    () => self.postMessage({ westDeg: 0, southDeg: 0 } satisfies HillReply),
  );
};

/** Shade in one ink, light in the other, the more the stronger; level ground is left as it is. */
async function draw({ name, shade, light }: HillWish): Promise<HillReply> {
  const answer = await fetch(`/api/v1/elevation/${name}`);
  const tile = decodeElevationTile(name, new Uint8Array(await answer.arrayBuffer()));
  if (isMalformed(tile)) return { westDeg: 0, southDeg: 0 };
  const highest = tile.heightsM.reduce((most, height) => Math.max(most, height), 0);
  const everyM = STEPS_M.find((step) => highest / step <= MOST_LINES) ?? 200;
  const shades = hillshade(tile);
  const [dark, bright] = [rgb(shade), rgb(light)];
  const canvas = new OffscreenCanvas(tile.size, tile.size);
  const pen = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
  const image = pen.createImageData(tile.size, tile.size);
  for (const [i, one] of shades.entries()) {
    const ink = one > LEVEL ? dark : bright;
    image.data.set(ink, 4 * i);
    image.data[4 * i + 3] = Math.min(255, 2 * Math.abs(one - LEVEL));
  }
  pen.putImageData(image, 0, 0);
  return {
    picture: await canvas.convertToBlob({ type: 'image/png' }),
    westDeg: tile.westDeg,
    southDeg: tile.southDeg,
    contours: contourLines(tile, everyM),
  };
}

const rgb = (hex: string): number[] => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
