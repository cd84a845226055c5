import type Map from 'ol/Map';
import VectorTileLayer from 'ol/layer/VectorTile';
import { useEffect, useMemo, useState } from 'react';
import { useLive } from '../../live/store';
import type { Inks } from '../inks';
import { mapsToDraw, readKeptAreas, useKeptAreas } from './kept-areas';
import { useMapSettings } from './map-settings';
import { hillLayers, type HillLayers } from './hill-layer';
import { addLocators } from './locator-layer';
import { tileLayer, tileStyle } from './tile-layers';

/** The operator's own map files, under everything that is heard. */
export function useMapFiles(map: Map | undefined, inks: Inks): void {
  const served = useLive((state) => state.maps);
  const isServerThere = useLive((state) => state.connection === 'open');
  const areas = useKeptAreas((state) => state.areas);
  const without = useMapSettings((state) => state.without);
  useEffect(() => void readKeptAreas(), []);
  const maps = useMemo(() => mapsToDraw(served, areas, isServerThere), [served, areas, isServerThere]);
  useEffect(() => {
    if (!map) return;
    const layers = maps.filter(({ name }) => !without.includes(name)).flatMap((one) => tileLayer(one) ?? []);
    for (const layer of layers) {
      if (layer instanceof VectorTileLayer) layer.setStyle(tileStyle(inks));
      map.addLayer(layer);
    }
    return () => layers.forEach((layer) => map.removeLayer(layer));
  }, [map, maps, without, inks]);
}

/** The ground by every tile of elevation that there is: light and shade, lines of equal height. */
export function useHills(map: Map | undefined, inks: Inks): void {
  const tiles = useLive((state) => state.tiles);
  const hills = useMapSettings((state) => state.hills);
  const contours = useMapSettings((state) => state.contours);
  const isWanted = hills || contours;
  const [layers, setLayers] = useState<readonly HillLayers[]>([]);
  useEffect(() => {
    if (!map || !isWanted) return;
    let isGone = false;
    const drawn: HillLayers[] = [];
    for (const tile of tiles)
      void hillLayers(tile, inks).then((made) => {
        if (!made || isGone) return;
        map.addLayer(made.shade);
        map.addLayer(made.contours);
        drawn.push(made);
        setLayers([...drawn]);
      });
    return () => {
      isGone = true;
      for (const made of drawn) {
        map.removeLayer(made.shade);
        map.removeLayer(made.contours);
      }
      setLayers([]);
    };
  }, [map, tiles, isWanted, inks]);
  useEffect(() => {
    for (const made of layers) {
      made.shade.setVisible(hills);
      made.contours.setVisible(contours);
    }
  }, [layers, hills, contours]);
}

export function useLocators(map: Map | undefined, inks: Inks): void {
  const isWanted = useMapSettings((state) => state.locators);
  useEffect(() => (map && isWanted ? addLocators(map, inks) : undefined), [map, isWanted, inks]);
}
