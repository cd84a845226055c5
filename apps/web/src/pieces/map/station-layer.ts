import { NAMES } from './land-layers';
import { halfBoxDeg } from '@mistpeak/core/aprs/plain-position';
import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { StationView } from '@mistpeak/contract/station';
import Feature from 'ol/Feature';
import Point from 'ol/geom/Point';
import Polygon from 'ol/geom/Polygon';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Circle as CircleStyle, Fill, Stroke, Style, Text } from 'ol/style';
import type { Inks } from '../inks';
import { OPACITY_LEVELS, LISTED_MS } from '../../live/ageing';
import { coverings, type Plate } from './covering';
import { plateOf, type PlateForm, type PlateTone } from './plates';

/** Plates and names are drawn from this ground on, metres a pixel; further out they would only cover one another. */
const NAMED_FROM = 400;
const SLOW_MPS = 0.3;
/** Plates nearer than this hide one another, pixels. */
const COVERED_PX = 16;

export interface StationLook {
  readonly operator: OperatorView;
  readonly inks: Inks;
  readonly nowMs: number;
  readonly selected: string | undefined;
  /** What stations are called here, in the place of their calls. */
  readonly names?: ReadonlyMap<string, string> | undefined;
  /** Which names are shown; absent: those that have room. */
  readonly labels?: MapLabels | undefined;
}

export type MapLabels = 'always' | 'selected' | 'none';

/** Every station and object with a place, each one feature that is changed only when its station is. */
export class StationLayer {
  private readonly source = new VectorSource();
  readonly layer = new VectorLayer({
    source: this.source,
    declutter: NAMES,
    updateWhileInteracting: false,
    zIndex: 20,
  });
  /** Where digits were left out the place is an area, and the plate only its middle. */
  private readonly areas = new VectorSource<Feature<Polygon>>();
  readonly areaLayer = new VectorLayer({ source: this.areas, updateWhileInteracting: false, zIndex: 15 });
  private readonly features = new Map<string, { feature: Feature<Point>; station: StationView }>();
  private look: StationLook | undefined;
  private covering: { resolution: number; found: ReadonlyMap<string, number> } | undefined;
  private readonly own = new Feature(new Point([0, 0]));

  constructor() {
    this.layer.setStyle((feature, resolution) => {
      const known = this.features.get(feature.getId() as string);
      if (!known || !this.look) return undefined;
      const covers = resolution > NAMED_FROM ? 0 : (this.covered(resolution).get(known.station.name) ?? 0);
      return styleOf(known.station, this.look, resolution, covers);
    });
  }

  /** Made once for each scale and set of places. */
  private covered(resolution: number): ReadonlyMap<string, number> {
    if (this.covering?.resolution === resolution) return this.covering.found;
    const plates = [...this.features.values()].flatMap(({ feature, station }): Plate[] => {
      const [x, y] = feature.getGeometry()?.getCoordinates() ?? [];
      const { nowMs, selected, operator } = this.look as StationLook;
      if (x === undefined || y === undefined || nowMs - station.heardAtMs > LISTED_MS) return [];
      return [{ name: station.name, x, y, rank: rankOf(station, selected, operator) }];
    });
    const found = coverings(plates, COVERED_PX * resolution);
    this.covering = { resolution, found };
    return found;
  }

  /** look: drawn anew, all of them. */
  setLook(look: StationLook): void {
    this.look = look;
    this.covering = undefined;
    this.placeOwn(look);
    this.areaLayer.setStyle(
      new Style({
        fill: new Fill({ color: `${look.inks.ink3}22` }),
        stroke: new Stroke({ color: look.inks.ink3, width: 1.2, lineDash: [5, 4] }),
      }),
    );
    this.layer.changed();
  }

  setStations(stations: ReadonlyMap<string, StationView>): void {
    this.covering = undefined;
    const added: Feature<Point>[] = [];
    for (const [name, station] of stations) {
      const known = this.features.get(name);
      if (!station.position || known?.station === station) continue;
      const place = fromLonLat([station.position.longitudeDeg, station.position.latitudeDeg]);
      this.placeArea(name, station);
      if (known) {
        known.feature.getGeometry()?.setCoordinates(place);
        known.station = station;
      } else {
        const feature = new Feature(new Point(place));
        feature.setId(name);
        this.features.set(name, { feature, station });
        added.push(feature);
      }
    }
    this.source.addFeatures(added);
    for (const [name, { feature }] of this.features)
      if (!stations.has(name)) {
        this.removeArea(name);
        this.source.removeFeature(feature);
        this.features.delete(name);
      }
  }

  private placeArea(name: string, { position, ambiguityDigits = 0 }: StationView): void {
    this.removeArea(name);
    const half = halfBoxDeg(ambiguityDigits);
    if (!position || half === 0) return;
    const { latitudeDeg, longitudeDeg } = position;
    const corners = [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
      [-1, -1],
    ].map(([x = 0, y = 0]) => fromLonLat([longitudeDeg + x * half, latitudeDeg + y * half]));
    const area = new Feature(new Polygon([corners]));
    area.setId(name);
    this.areas.addFeature(area);
  }

  private removeArea(name: string): void {
    const area = this.areas.getFeatureById(name);
    if (area) this.areas.removeFeature(area);
  }

  /** Where I am: a mark without a plate, since nobody has heard it. */
  private placeOwn({ operator, inks }: StationLook): void {
    if (!operator.position) {
      if (this.source.hasFeature(this.own)) this.source.removeFeature(this.own);
      return;
    }
    const { latitudeDeg, longitudeDeg } = operator.position;
    this.own.getGeometry()?.setCoordinates(fromLonLat([longitudeDeg, latitudeDeg]));
    this.own.setStyle([
      new Style({ image: disc(9, inks.ink), zIndex: 3 }),
      new Style({ image: disc(5.5, inks.provedfill), text: ownText(inks), zIndex: 3 }),
    ]);
    if (!this.source.hasFeature(this.own)) this.source.addFeature(this.own);
  }

  stationOf(name: string): StationView | undefined {
    return this.features.get(name)?.station;
  }
}

/** What stands above what: the selected, my own, stations, objects; of each the last heard. */
function rankOf(
  { name, kind, heardAtMs }: StationView,
  selected: string | undefined,
  operator: OperatorView,
): number {
  const place =
    name === selected ? 3 : callWithoutSsid(name) === operator.call ? 2 : kind === 'station' ? 1 : 0;
  return place * 1e14 + heardAtMs;
}

function disc(radius: number, color: string, opacity = 1): CircleStyle {
  const circle = new CircleStyle({ radius, fill: new Fill({ color }), declutterMode: 'none' });
  circle.setOpacity(opacity);
  return circle;
}

function styleOf(
  station: StationView,
  { operator, inks, nowMs, selected, names, labels }: StationLook,
  resolution: number,
  covers: number,
): Style | undefined {
  const ageMs = nowMs - station.heardAtMs;
  if (ageMs > LISTED_MS) return undefined;
  const isSelected = station.name === selected;
  const isOwn = callWithoutSsid(station.name) === operator.call;
  const tone: PlateTone = isSelected ? 'selected' : isOwn ? 'own' : 'heard';
  const opacity = isSelected ? 1 : (OPACITY_LEVELS.find(({ fromMs }) => ageMs >= fromMs)?.opacity ?? 1);
  const byInternet = station.positionBy === 'internet';
  const image = plateOf(station.symbol, formOf(station), tone, opacity, inks, byInternet);
  const isCovered = covers < 0;
  const zIndex = isCovered ? -1 : isSelected ? 2 : isOwn ? 1 : 0;
  if (resolution > NAMED_FROM && !isSelected) return dotOf(isOwn, opacity, inks);
  if (isCovered) return new Style({ image, zIndex });
  const called = names?.get(station.name);
  const name = covers > 0 ? `${called ?? station.name} +${covers}` : (called ?? station.name);
  if (labels === 'none' || (labels === 'selected' && !isSelected)) return new Style({ image, zIndex });
  return new Style({
    image,
    zIndex,
    text: nameText(name, isSelected || labels === 'always', opacity, inks),
  });
}

const dots = new WeakMap<Inks, Map<string, Style>>();

/** From far away a station is a dot, the paler the longer unheard. */
function dotOf(isOwn: boolean, opacity: number, inks: Inks): Style {
  const known = dots.get(inks) ?? new Map<string, Style>();
  dots.set(inks, known);
  const key = `${isOwn} ${opacity}`;
  const style = known.get(key) ?? new Style({ image: disc(3, isOwn ? inks.proved : inks.ink, opacity) });
  known.set(key, style);
  return style;
}

function formOf({ kind, speedMps }: StationView): PlateForm {
  if (kind === 'object') return 'object';
  return speedMps !== undefined && speedMps > SLOW_MPS ? 'moves' : 'stands';
}

/** To the left, where no call stands: one's own station may be at the same place. */
function ownText(inks: Inks): Text {
  const text = nameText('me', true, 1, inks);
  text.setTextAlign('right');
  text.setOffsetX(-13);
  return text;
}

function nameText(name: string, isSelected: boolean, opacity: number, inks: Inks): Text {
  return new Text({
    text: name,
    font: `600 12.5px 'Atkinson Hyperlegible Mono Variable', monospace`,
    fill: new Fill({ color: opacity < 1 ? inks.ink3 : inks.ink }),
    stroke: new Stroke({ color: inks.sheet, width: 3.5 }),
    textAlign: 'left',
    offsetX: 17,
    declutterMode: isSelected ? 'none' : 'declutter',
  });
}
