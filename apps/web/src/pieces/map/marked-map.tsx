import 'ol/ol.css';
import { boundingExtent } from 'ol/extent';
import Feature from 'ol/Feature';
import Map from 'ol/Map';
import View from 'ol/View';
import LineString from 'ol/geom/LineString';
import Point from 'ol/geom/Point';
import Polygon from 'ol/geom/Polygon';
import Draw from 'ol/interaction/Draw';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat, toLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Circle, Fill, Stroke, Style, Text } from 'ol/style';
import { useEffect, useRef, useState } from 'react';
import type { Position } from '@mistpeak/core/geo/position';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useInks, type Inks } from '../inks';
import { useLand } from './use-land';

/** A place on the map. me: filled; hit: proved; miss: hollow; spot: looked for. */
export interface Mark {
  readonly id: string;
  readonly position: Position;
  readonly kind: 'me' | 'station' | 'spot' | 'hit' | 'miss';
  readonly label?: string;
}

/** A piece of ground: sure, or a matter of luck. */
export interface Cell {
  readonly corners: readonly Position[];
  readonly isSure: boolean;
}

export interface Line {
  readonly points: readonly Position[];
  readonly isStrong: boolean;
}

interface Drawn {
  readonly map: Map;
  readonly cells: VectorSource;
  readonly lines: VectorSource;
  readonly marks: VectorSource;
}

/** A map with marks, lines and tinted ground. What it shows stands in words beside it. */
export default function MarkedMap({
  label,
  operator,
  centre,
  marks,
  lines = NONE,
  cells = NONE,
  choose,
  pick,
  drawn: takeDrawn,
}: {
  label: string;
  operator: OperatorView;
  centre: Position;
  marks: readonly Mark[];
  lines?: readonly Line[];
  cells?: readonly Cell[];
  choose?: (id: string) => void;
  /** A press where no mark stands. */
  pick?: ((position: Position) => void) | undefined;
  /** Left out: nothing can be drawn; else what the hand drew, as a line. */
  drawn?: ((points: readonly Position[]) => void) | undefined;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const inks = useInks();
  const [drawn, setDrawn] = useState<Drawn>();
  const chooseNow = useRef(choose);
  const pickNow = useRef(pick);
  useEffect(() => {
    chooseNow.current = choose;
    pickNow.current = pick;
  });
  useEffect(() => {
    const made = draw(
      holder.current as HTMLDivElement,
      centre,
      (id) => chooseNow.current?.(id),
      (position) => pickNow.current?.(position),
    );
    setDrawn(made);
    return () => made.map.setTarget(undefined);
    // The map is made once.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useLand(drawn?.map, inks, operator);
  useEffect(() => {
    drawn?.cells.clear(true);
    drawn?.cells.addFeatures(cells.map((cell) => cellOf(cell, inks)));
    if (cells.length > 0)
      fit(
        drawn,
        cells.flatMap(({ corners }) => corners),
      );
  }, [drawn, cells, inks]);
  useEffect(() => {
    drawn?.lines.clear(true);
    drawn?.lines.addFeatures(lines.map((line) => lineOf(line, inks)));
    if (lines.length > 0)
      fit(
        drawn,
        lines.flatMap(({ points }) => points),
      );
  }, [drawn, lines, inks]);
  useEffect(() => {
    drawn?.marks.clear(true);
    drawn?.marks.addFeatures(marks.map((mark) => markOf(mark, inks)));
  }, [drawn, marks, inks]);
  useHand(drawn?.map, takeDrawn);
  return (
    <div
      ref={holder}
      role="application"
      tabIndex={0}
      aria-label={label}
      className="h-[22rem] border border-line bg-paper"
    />
  );
}

const NONE: readonly never[] = [];
const at = ({ longitudeDeg, latitudeDeg }: Position): number[] => fromLonLat([longitudeDeg, latitudeDeg]);

function draw(
  target: HTMLDivElement,
  centre: Position,
  choose: (id: string) => void,
  pick: (position: Position) => void,
): Drawn {
  const [cells, lines, marks] = [new VectorSource(), new VectorSource(), new VectorSource()];
  const map = new Map({
    target,
    controls: [],
    layers: [
      new VectorLayer({ source: cells, zIndex: 8, opacity: 0.4 }),
      new VectorLayer({ source: lines, zIndex: 12 }),
      new VectorLayer({ source: marks, zIndex: 20, declutter: true }),
    ],
    view: new View({ center: at(centre), zoom: 11, maxZoom: 16 }),
  });
  map.on('click', ({ pixel, coordinate }) => {
    const id = map.forEachFeatureAtPixel(pixel, (feature) => feature.getId() as string | undefined, {
      hitTolerance: 8,
    });
    if (id) return choose(id);
    const [longitudeDeg = 0, latitudeDeg = 0] = toLonLat(coordinate);
    pick({ latitudeDeg, longitudeDeg });
  });
  return { map, cells, lines, marks };
}

function fit(drawn: Drawn | undefined, points: readonly Position[]): void {
  drawn?.map.getView().fit(boundingExtent(points.map(at)), { padding: [24, 24, 24, 24], maxZoom: 14 });
}

/** A line by hand: each press a point, a double press the last. */
function useHand(map: Map | undefined, take: ((points: readonly Position[]) => void) | undefined): void {
  const takeNow = useRef(take);
  useEffect(() => void (takeNow.current = take));
  const isOn = take !== undefined;
  useEffect(() => {
    if (!map || !isOn) return;
    const hand = new Draw({ type: 'LineString' });
    hand.on('drawend', ({ feature }) => {
      const points = (feature.getGeometry() as LineString).getCoordinates().map((point) => {
        const [longitudeDeg = 0, latitudeDeg = 0] = toLonLat(point);
        return { latitudeDeg, longitudeDeg };
      });
      takeNow.current?.(points);
    });
    map.addInteraction(hand);
    return () => void map.removeInteraction(hand);
  }, [map, isOn]);
}

function cellOf({ corners, isSure }: Cell, inks: Inks): Feature {
  const cell = new Feature(new Polygon([[...corners, corners[0] as Position].map(at)]));
  cell.setStyle(new Style({ fill: new Fill({ color: isSure ? inks.provedfill : `${inks.provedfill}66` }) }));
  return cell;
}

function lineOf({ points, isStrong }: Line, inks: Inks): Feature {
  const line = new Feature(new LineString(points.map(at)));
  line.setStyle(
    new Style({
      stroke: new Stroke({
        color: isStrong ? inks.ink : inks.ink3,
        width: isStrong ? 2.4 : 1.4,
        ...(isStrong ? {} : { lineDash: [2, 5] }),
      }),
    }),
  );
  return line;
}

function markOf({ id, position, kind, label }: Mark, inks: Inks): Feature {
  const mark = new Feature(new Point(at(position)));
  mark.setId(id);
  const colour = {
    me: inks.ink,
    station: inks.raise,
    spot: inks.look,
    hit: inks.provedfill,
    miss: inks.sheet,
  }[kind];
  mark.setStyle(
    new Style({
      image: new Circle({
        radius: kind === 'me' ? 7 : 5.5,
        fill: new Fill({ color: colour }),
        stroke: new Stroke({ color: inks.ink, width: kind === 'miss' ? 1.2 : 1.6 }),
      }),
      ...(label === undefined
        ? {}
        : {
            text: new Text({
              text: label,
              offsetY: -13,
              font: `600 12.5px 'Atkinson Hyperlegible Mono Variable', monospace`,
              fill: new Fill({ color: inks.ink }),
              stroke: new Stroke({ color: inks.sheet, width: 3 }),
            }),
          }),
    }),
  );
  return mark;
}
