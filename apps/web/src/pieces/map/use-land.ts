import type { OperatorView } from '@mistpeak/contract/operator';
import type Map from 'ol/Map';
import ScaleLine from 'ol/control/ScaleLine';
import type VectorLayer from 'ol/layer/Vector';
import { useEffect, useState } from 'react';
import type { Inks } from '../inks';
import { useMapSettings } from './map-settings';
import { graticule, landStyle, placeLayer, worldLayer } from './land-layers';

const SCALE_UNITS = { metric: 'metric', imperial: 'us', nautical: 'nautical' } as const;

/** Land, degrees and scale under whatever else a map shows. */
export function useLand(
  map: Map | undefined,
  inks: Inks,
  { units, coordinates }: Pick<OperatorView, 'units' | 'coordinates'>,
): void {
  const isRuled = useMapSettings((state) => state.graticule);
  const lands = useLands(map);
  useEffect(() => lands.forEach((land) => land.setStyle(landStyle(inks))), [lands, inks]);
  useEffect(() => {
    if (!isRuled) return;
    const lines = graticule(inks, coordinates);
    lines.setZIndex(5);
    map?.addLayer(lines);
    return () => void map?.removeLayer(lines);
  }, [map, inks, isRuled, coordinates]);
  useEffect(() => {
    const scale = new ScaleLine({ units: SCALE_UNITS[units], className: 'air-scale' });
    map?.addControl(scale);
    return () => void map?.removeControl(scale);
  }, [map, units]);
}

/** The land comes in its own time, the place's own map over the coasts of the world. */
function useLands(map: Map | undefined): readonly VectorLayer[] {
  const [lands, setLands] = useState<readonly VectorLayer[]>([]);
  useEffect(() => {
    if (!map) return;
    let isGone = false;
    const add = (layer: VectorLayer | undefined, zIndex: number): void => {
      if (!layer || isGone) return;
      layer.setZIndex(zIndex);
      map.addLayer(layer);
      setLands((before) => [...before, layer]);
    };
    void worldLayer().then((layer) => add(layer, 1));
    void placeLayer().then((layer) => add(layer, 2));
    return () => {
      isGone = true;
    };
  }, [map]);
  return lands;
}
