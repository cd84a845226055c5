import 'ol/ol.css';
import { boundingExtent } from 'ol/extent';
import Feature from 'ol/Feature';
import Map from 'ol/Map';
import View from 'ol/View';
import Point from 'ol/geom/Point';
import Polygon from 'ol/geom/Polygon';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Circle, Fill, Stroke, Style, Text } from 'ol/style';
import { useEffect, useRef, useState } from 'react';
import type { Position } from '@mistpeak/core/geo/position';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { PathJobs } from '../../workers/path-messages';
import { useInks, type Inks } from '../../pieces/inks';
import { useLand } from '../../pieces/map/use-land';

export interface MapPlace {
  readonly name: string;
  readonly position: Position;
  readonly kind: 'me' | 'station' | 'spot';
}

/** Reach as tinted cells: strong where the margin is over the spread, faint where it is a matter of luck. */
export default function ReachMap({
  operator,
  centre,
  rays,
  places,
  choose,
}: {
  operator: OperatorView;
  centre: Position;
  rays: PathJobs['map']['answer']['rays'] | undefined;
  places: readonly MapPlace[];
  choose: (name: string) => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const inks = useInks();
  const [drawn, setDrawn] = useState<{ map: Map; cells: VectorSource; marks: VectorSource }>();
  const chooseNow = useRef(choose);
  useEffect(() => void (chooseNow.current = choose));
  useEffect(() => {
    const [cells, marks] = [new VectorSource(), new VectorSource()];
    const map = new Map({
      target: holder.current as HTMLDivElement,
      controls: [],
      layers: [
        new VectorLayer({ source: cells, zIndex: 8, opacity: 0.4 }),
        new VectorLayer({ source: marks, zIndex: 20, declutter: true }),
      ],
      view: new View({ center: at(centre), zoom: 11, maxZoom: 16 }),
    });
    map.on('click', ({ pixel }) => {
      const name = map.forEachFeatureAtPixel(pixel, (feature) => feature.getId() as string | undefined, {
        hitTolerance: 8,
      });
      if (name) chooseNow.current(name);
    });
    setDrawn({ map, cells, marks });
    return () => map.setTarget(undefined);
    // The map is made once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useLand(drawn?.map, inks, operator.units);
  useEffect(() => {
    drawn?.cells.clear(true);
    if (!rays || !drawn) return;
    drawn.cells.addFeatures(cellsOf(rays, inks));
    drawn.map.getView().fit(boundingExtent(rays.flatMap(({ places: all }) => all.slice(-1).map(at))), {
      padding: [8, 8, 8, 8],
    });
  }, [drawn, rays, inks]);
  useEffect(() => {
    drawn?.marks.clear(true);
    drawn?.marks.addFeatures(places.map((place) => markOf(place, inks)));
  }, [drawn, places, inks]);
  return (
    <div
      ref={holder}
      role="application"
      tabIndex={0}
      aria-label="Map of the reach. The table beside it names the stations in words."
      className="h-[22rem] border border-line bg-paper"
    />
  );
}

const at = ({ longitudeDeg, latitudeDeg }: Position): number[] => fromLonLat([longitudeDeg, latitudeDeg]);

/** The step of a margin that is told apart, dB: about the spread of the reckoning. */
const SURE_DB = 9;

function cellsOf(rays: PathJobs['map']['answer']['rays'], inks: Inks): Feature[] {
  const sure = new Style({ fill: new Fill({ color: inks.provedfill }) });
  const perhaps = new Style({ fill: new Fill({ color: `${inks.provedfill}66` }) });
  return rays.flatMap(({ marginsDb, places }, i) => {
    const next = rays[(i + 1) % rays.length] as (typeof rays)[number];
    const found: Feature[] = [];
    for (let k = 0; k + 1 < marginsDb.length; k++) {
      const marginDb = marginsDb[k] as number;
      if (marginDb < -SURE_DB / 2) continue;
      const corners = [places[k], places[k + 1], next.places[k + 1], next.places[k]] as Position[];
      const cell = new Feature(new Polygon([[...corners, corners[0] as Position].map(at)]));
      cell.setStyle(marginDb >= SURE_DB ? sure : perhaps);
      found.push(cell);
    }
    return found;
  });
}

function markOf({ name, position, kind }: MapPlace, inks: Inks): Feature {
  const mark = new Feature(new Point(at(position)));
  mark.setId(name);
  const colour = kind === 'spot' ? inks.look : kind === 'me' ? inks.ink : inks.raise;
  mark.setStyle(
    new Style({
      image: new Circle({
        radius: kind === 'me' ? 7 : 5.5,
        fill: new Fill({ color: colour }),
        stroke: new Stroke({ color: inks.ink, width: 1.6 }),
      }),
      text: new Text({
        text: name,
        offsetY: -13,
        font: `600 12.5px 'Atkinson Hyperlegible Mono Variable', monospace`,
        fill: new Fill({ color: inks.ink }),
        stroke: new Stroke({ color: inks.sheet, width: 3 }),
      }),
    }),
  );
  return mark;
}
