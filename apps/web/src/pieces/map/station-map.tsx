import 'ol/ol.css';
import type { Position } from '@mistpeak/core/geo/position';
import type { Leg } from '@mistpeak/core/watch/watched';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { StationView, Track } from '@mistpeak/contract/station';
import Map from 'ol/Map';
import View from 'ol/View';
import { boundingExtent } from 'ol/extent';
import { fromLonLat, toLonLat } from 'ol/proj';
import { Minus, Plus, LocateFixed } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import { usePaced } from '../../live/paced';
import { useInks } from '../inks';
import { useLand } from './use-land';
import { StationLayer, type MapLabels } from './station-layer';
import type { Extent } from './kept-areas';
import { LayersPanel } from './layers-panel';
import { LegLayer } from './leg-layer';
import { useMapSettings } from './map-settings';
import { MarkLayer } from './mark-layer';
import { PlaceCard } from './place-card';
import { RingLayer } from './ring-layer';
import { useHills, useLocators, useMapFiles } from './use-map-files';
import { TrackLayer } from './track-layer';
import { WayLayer, type Stop } from './way-layer';

export interface StationMapProps {
  readonly operator: OperatorView;
  readonly stations: ReadonlyMap<string, StationView>;
  readonly tracks: readonly Track[];
  readonly selected: string | undefined;
  readonly way: readonly Stop[];
  readonly nowMs: number;
  /** Ways and ground that are kept to. */
  readonly legs?: readonly Leg[] | undefined;
  /** What stations are called here, in the place of their calls; all of them are on the map as it comes up. */
  readonly names?: ReadonlyMap<string, string> | undefined;
  readonly labels?: MapLabels | undefined;
  /** A station that the map goes to. */
  readonly focus?: string | undefined;
  readonly select: (name: string) => void;
  /** What can be done at a place that was clicked. */
  readonly atPlace?: ((place: Position, close: () => void) => ReactNode) | undefined;
}

const FIRST_ZOOM = 11;
/** Who has not said where he is sees the world. */
const WORLD_ZOOM = 2;
const HIT_PX = 8;
/** The card of the selected station covers so much of the map's left side. */
const CARD_PX = 400;
const EDGE_PX = 60;
/** A busy channel moves stations many times a second; the map follows at this pace. */
const FOLLOW_EVERY_MS = 500;
const NONE: readonly Leg[] = [];
const WORLD: Extent = [-180, -85, 180, 85];

/** The map: land, tracks, the way of the selected frame, stations. The list beside it says the same in words. */
export default function StationMap(props: StationMapProps) {
  const holder = useRef<HTMLDivElement>(null);
  const [place, setPlace] = useState<Position>();
  const [from, setFrom] = useState<Position>();
  const drawn = useDrawnMap(holder, props, setPlace);
  useEffect(() => drawn?.marks.setMarks(from, place), [drawn, from, place]);
  const close = (): void => {
    setPlace(undefined);
    setFrom(undefined);
  };
  const zoomBy = (steps: number): void => {
    const view = drawn?.map.getView();
    view?.animate({ zoom: (view.getZoom() ?? FIRST_ZOOM) + steps, duration: 150 });
  };
  return (
    <div className="relative h-full min-h-0 bg-paper">
      <div
        ref={holder}
        role="application"
        aria-label="Map. Arrow keys move it, plus and minus zoom; the list of stations says the same in words."
        tabIndex={0}
        className="absolute inset-0"
      />
      {place && (
        <PlaceCard place={place} from={from} operator={props.operator} measureFrom={setFrom} close={close}>
          {props.atPlace?.(place, close)}
        </PlaceCard>
      )}
      <div className="absolute right-3 bottom-9 flex flex-col overflow-hidden rounded-lg border border-edge bg-raise">
        <LayersPanel shown={() => drawn?.shown() ?? WORLD} />
        <MapButton label="Zoom in" onClick={() => zoomBy(1)}>
          <Plus className="size-4" aria-hidden />
        </MapButton>
        <MapButton label="Zoom out" onClick={() => zoomBy(-1)}>
          <Minus className="size-4" aria-hidden />
        </MapButton>
        <MapButton
          label="Go to my place"
          isOff={!props.operator.position}
          onClick={() => props.operator.position && drawn?.goTo(props.operator.position)}
        >
          <LocateFixed className="size-4" aria-hidden />
        </MapButton>
      </div>
    </div>
  );
}

function MapButton({
  label,
  isOff = false,
  onClick,
  children,
}: {
  label: string;
  isOff?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={isOff}
      onClick={onClick}
      className="grid size-9 place-items-center border-b border-line last:border-b-0 hover:bg-sheet disabled:opacity-50 max-md:size-11"
    >
      {children}
    </button>
  );
}

interface Drawn {
  readonly map: Map;
  readonly stations: StationLayer;
  readonly tracks: TrackLayer;
  readonly way: WayLayer;
  readonly legs: LegLayer;
  readonly rings: RingLayer;
  readonly marks: MarkLayer;
  goTo(place: Position): void;
  /** The part of the earth that is on the map now. */
  shown(): Extent;
  /** Moves the map, if need be, so that the place lies neither under the card nor off the map. */
  bringFromUnderCard(place: Position): void;
  /** Moves the map so that all of these are on it. */
  fit(places: readonly Position[]): void;
}

function useDrawnMap(
  holder: RefObject<HTMLDivElement | null>,
  props: StationMapProps,
  choosePlace: (place: Position | undefined) => void,
): Drawn | undefined {
  const {
    operator,
    stations,
    tracks,
    selected,
    way,
    nowMs,
    focus,
    select,
    legs = NONE,
    names,
    labels,
  } = props;
  const inks = useInks();
  const [drawn, setDrawn] = useState<Drawn>();
  const selectNow = useRef(select);
  useEffect(() => void (selectNow.current = select));

  useEffect(() => {
    const made = draw(holder.current as HTMLDivElement, operator, (name, place) => {
      if (name !== undefined) selectNow.current(name);
      choosePlace(name === undefined ? place : undefined);
    });
    setDrawn(made);
    return () => made.map.setTarget(undefined);
    // The map is made once; where it begins does not follow the settings.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useLand(drawn?.map, inks, operator);
  useMapFiles(drawn?.map, inks);
  useHills(drawn?.map, inks);
  useLocators(drawn?.map, inks);
  const paced = usePaced(stations, FOLLOW_EVERY_MS);
  useEffect(() => drawn?.stations.setStations(paced), [drawn, paced]);
  const minute = Math.floor(nowMs / 60_000);
  useEffect(
    () => drawn?.stations.setLook({ operator, inks, nowMs: minute * 60_000, selected, names, labels }),
    [drawn, operator, inks, minute, selected, names, labels],
  );
  useEffect(() => drawn?.tracks.setTracks(tracks), [drawn, tracks]);
  useEffect(() => drawn?.tracks.setLook(inks, selected), [drawn, inks, selected]);
  useEffect(() => drawn?.way.setWay(way, inks), [drawn, way, inks]);
  useEffect(() => drawn?.legs.setLegs(legs, inks), [drawn, legs, inks]);
  const { rings, ranges, ahead } = useMapSettings();
  const tenSeconds = Math.floor(nowMs / 10_000);
  const stationsNow = useRef(paced);
  useEffect(() => void (stationsNow.current = paced));
  const isAnybodyThere = paced.size > 0;
  // Every ten seconds and not with each packet: where thousands are by now is reckoned along geodesics.
  useEffect(
    () =>
      drawn?.rings.draw(stationsNow.current, {
        here: operator.position,
        rings,
        ranges,
        ahead,
        units: operator.units,
        nowMs: tenSeconds * 10_000,
        inks,
      }),
    [drawn, isAnybodyThere, operator, rings, ranges, ahead, tenSeconds, inks],
  );
  useEffect(() => drawn?.marks.setInks(inks), [drawn, inks]);
  // Those who are looked after, all on the map as it comes up.
  const isFitted = useRef(false);
  useEffect(() => {
    if (!drawn || !names || isFitted.current || stations.size === 0) return;
    isFitted.current = true;
    drawn.fit([...names.keys()].flatMap((name) => stations.get(name)?.position ?? []));
  }, [drawn, names, stations]);
  useEffect(() => {
    const place = selected === undefined ? undefined : drawn?.stations.stationOf(selected)?.position;
    if (place && focus === undefined) drawn?.bringFromUnderCard(place);
  }, [drawn, selected, focus]);
  useEffect(() => {
    const place = focus === undefined ? undefined : drawn?.stations.stationOf(focus)?.position;
    if (place) drawn?.goTo(place);
  }, [drawn, focus]);
  return drawn;
}

function draw(
  target: HTMLDivElement,
  operator: OperatorView,
  choose: (name: string | undefined, place: Position) => void,
): Drawn {
  const [stations, tracks, way, legs] = [
    new StationLayer(),
    new TrackLayer(),
    new WayLayer(),
    new LegLayer(),
  ];
  const [rings, marks] = [new RingLayer(), new MarkLayer()];
  const map = new Map({
    target,
    controls: [],
    layers: [
      stations.areaLayer,
      legs.layer,
      rings.layer,
      marks.layer,
      tracks.layer,
      way.layer,
      stations.layer,
    ],
    view: new View({
      center: fromLonLat([operator.position?.longitudeDeg ?? 0, operator.position?.latitudeDeg ?? 0]),
      zoom: operator.position ? FIRST_ZOOM : WORLD_ZOOM,
      minZoom: 1.5,
      maxZoom: 17,
    }),
  });
  const nameAt = (pixel: number[]): string | undefined =>
    map.forEachFeatureAtPixel(pixel, (feature) => feature.getId() as string, {
      hitTolerance: HIT_PX,
      layerFilter: (layer) => layer === stations.layer,
    });
  map.on('click', ({ pixel, coordinate }) => {
    const [longitudeDeg = 0, latitudeDeg = 0] = toLonLat(coordinate);
    choose(nameAt(pixel), { latitudeDeg, longitudeDeg });
  });
  map.on('pointermove', ({ pixel, dragging }) => {
    if (!dragging) target.style.cursor = nameAt(pixel) ? 'pointer' : '';
  });
  const goTo: Drawn['goTo'] = ({ latitudeDeg, longitudeDeg }) =>
    map.getView().animate({ center: fromLonLat([longitudeDeg, latitudeDeg]), duration: 250 });
  const bringFromUnderCard: Drawn['bringFromUnderCard'] = ({ latitudeDeg, longitudeDeg }) => {
    const [width = 0, height = 0] = map.getSize() ?? [];
    const pixel = map.getPixelFromCoordinate(fromLonLat([longitudeDeg, latitudeDeg]));
    if (!pixel || width < 2 * CARD_PX) return;
    const [x = 0, y = 0] = pixel;
    const [toX, toY] = [clamp(x, CARD_PX, width - EDGE_PX), clamp(y, EDGE_PX, height - EDGE_PX)];
    if (toX === x && toY === y) return;
    const center = map.getCoordinateFromPixel([width / 2 + x - toX, height / 2 + y - toY]);
    map.getView().animate({ center, duration: 250 });
  };
  const fit: Drawn['fit'] = (places) => {
    if (places.length === 0) return;
    const extent = boundingExtent(
      places.map(({ latitudeDeg, longitudeDeg }) => fromLonLat([longitudeDeg, latitudeDeg])),
    );
    map.getView().fit(extent, { padding: [EDGE_PX, EDGE_PX, EDGE_PX, EDGE_PX], maxZoom: FIRST_ZOOM + 1 });
  };
  const shown = (): Extent => {
    const [west = 0, south = 0, east = 0, north = 0] = map.getView().calculateExtent(map.getSize());
    const [[fromDeg = 0, southDeg = 0], [toDeg = 0, northDeg = 0]] = [
      toLonLat([west, south]),
      toLonLat([east, north]),
    ];
    return [fromDeg, southDeg, toDeg, northDeg];
  };
  return { map, stations, tracks, way, legs, rings, marks, goTo, shown, bringFromUnderCard, fit };
}

const clamp = (value: number, from: number, to: number): number => Math.min(to, Math.max(from, value));
