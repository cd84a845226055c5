import type { Feature as GeoFeature, FeatureCollection } from 'geojson';
import GeoJSON from 'ol/format/GeoJSON';
import type { FeatureLike } from 'ol/Feature';
import Graticule from 'ol/layer/Graticule';
import VectorLayer from 'ol/layer/Vector';
import VectorSource from 'ol/source/Vector';
import { Fill, Stroke, Style, Text } from 'ol/style';
import type { CoordinateForm } from '@mistpeak/core/geo/coordinates';
import type { Inks } from '../inks';

/** What stands in one another's way among names of the land and of stations. */
export const NAMES = 'names';

/** The finest ground that a map of the place shows; further out the coasts of the world do. */
const PLACE_RESOLUTION = 600;
const HIGHEST_M = 1214;

const format = new GeoJSON({ featureProjection: 'EPSG:3857' });

/** The coasts of the world, from world-atlas: fetched only when a map is opened. */
export async function worldLayer(): Promise<VectorLayer> {
  const { coastsOfTheWorld } = await import('./coasts');
  return layerOf(coastsOfTheWorld());
}

/** The map of the place, if the server has one. */
export async function placeLayer(): Promise<VectorLayer | undefined> {
  const answer = await fetch('/map/island.geojson');
  if (!answer.ok || !answer.headers.get('content-type')?.includes('json')) return undefined;
  const layer = layerOf((await answer.json()) as FeatureCollection);
  layer.setMaxResolution(PLACE_RESOLUTION);
  return layer;
}

function layerOf(map: FeatureCollection | GeoFeature): VectorLayer {
  const features = format.readFeatures(map);
  return new VectorLayer({ source: new VectorSource({ features }), declutter: NAMES });
}

/** Land in the tints of the ridge: the higher, the stronger. */
export function landStyle(inks: Inks): (feature: FeatureLike, resolution: number) => Style | undefined {
  const land = new Style({
    fill: new Fill({ color: inks.sheet }),
    stroke: new Stroke({ color: inks.edge, width: 1 }),
  });
  const heights = new Map<number, Style>();
  const road = new Style({ stroke: new Stroke({ color: inks.ink3, width: 1.6 }) });
  const track = new Style({ stroke: new Stroke({ color: inks.ink3, width: 1.2, lineDash: [6, 4] }) });
  return (feature, resolution) => {
    const kind = feature.get('kind') as string | undefined;
    if (kind === undefined || kind === 'land') return land;
    if (kind === 'height') {
      const metres = feature.get('metres') as number;
      const style = heights.get(metres) ?? heightStyle(metres, inks);
      heights.set(metres, style);
      return style;
    }
    if (kind === 'road') return road;
    if (kind === 'track') return resolution < 120 ? track : undefined;
    return placeStyle(feature, kind, inks);
  };
}

function heightStyle(metres: number, inks: Inks): Style {
  return new Style({
    fill: new Fill({ color: mix(inks.sheet, inks.r3, 0.14 + (0.62 * metres) / HIGHEST_M) }),
    stroke: new Stroke({ color: mix(inks.r3, inks.ink3, 0.25), width: metres % 500 === 0 ? 1 : 0.4 }),
    zIndex: metres,
  });
}

function placeStyle(feature: FeatureLike, kind: string, inks: Inks): Style {
  const name = feature.get('name') as string;
  const isSummit = kind === 'summit';
  return new Style({
    text: new Text({
      text: isSummit ? `▲ ${name} ${feature.get('metres') as number}` : name,
      font: `italic 13px 'Atkinson Hyperlegible Next Variable', sans-serif`,
      fill: new Fill({ color: inks.ink2 }),
      stroke: new Stroke({ color: inks.sheet, width: 3 }),
      offsetY: isSummit ? -2 : 16,
    }),
    zIndex: HIGHEST_M + 1,
  });
}

/** Degrees as lines, named at the edge. */
export function graticule(inks: Inks, form: CoordinateForm = 'decimal'): Graticule {
  const text = (): Text =>
    new Text({
      font: `12px 'Atkinson Hyperlegible Mono Variable', monospace`,
      fill: new Fill({ color: inks.ink2 }),
      stroke: new Stroke({ color: inks.paper, width: 3 }),
    });
  const longitude = text();
  longitude.setTextBaseline('bottom');
  const latitude = text();
  latitude.setTextAlign('start');
  return new Graticule({
    strokeStyle: new Stroke({ color: mix(inks.paper, inks.ink3, 0.45), width: 0.6 }),
    showLabels: true,
    wrapX: true,
    targetSize: 140,
    // Of minutes, or of tenths of degrees: as the operator writes them.
    intervals: form === 'minutes' ? MINUTE_STEPS : [30, 10, 5, 2, 1, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01],
    lonLabelFormatter: (degrees) => `${degreesText(degrees, form)} ${degrees < 0 ? 'W' : 'E'}`,
    latLabelFormatter: (degrees) => `${degreesText(degrees, form)} ${degrees < 0 ? 'S' : 'N'}`,
    latLabelPosition: 0.005,
    lonLabelStyle: longitude,
    latLabelStyle: latitude,
  });
}

const MINUTE_STEPS = [30, 10, 5, 2, 1, 0.5, 1 / 3, 1 / 6, 1 / 12, 1 / 30, 1 / 60];

/** `29.6°`, or `29° 36′`. */
export function degreesText(degrees: number, form: CoordinateForm): string {
  const size = Math.abs(degrees);
  if (form !== 'minutes') return `${Math.round(size * 100) / 100}°`;
  const minutes = Math.round(size * 60);
  return minutes % 60 === 0 ? `${minutes / 60}°` : `${Math.floor(minutes / 60)}° ${minutes % 60}′`;
}

/** Between two hex colours, share 0–1 of the second. */
export function mix(from: string, to: string, share: number): string {
  const parts = (hex: string): number[] => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
  const [a, b] = [parts(from), parts(to)];
  return `rgb(${a.map((value, i) => Math.round(value + ((b[i] as number) - value) * share)).join(' ')})`;
}
