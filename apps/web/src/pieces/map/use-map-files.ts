import type Map from 'ol/Map';
import VectorTileLayer from 'ol/layer/VectorTile';
import { useEffect } from 'react';
import { useLive } from '../../live/store';
import type { Inks } from '../inks';
import { useMapSettings } from './map-settings';
import { hillLayer } from './hill-layer';
import { addLocators } from './locator-layer';
import { tileLayer, tileStyle } from './tile-layers';

/** The operator's own map files, under everything that is heard. */
export function useMapFiles(map: Map | undefined, inks: Inks): void {
  const maps = useLive((state) => state.maps);
  const without = useMapSettings((state) => state.without);
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

/** Light and shade of the ground, of every tile that there is. */
export function useHills(map: Map | undefined, inks: Inks): void {
  const tiles = useLive((state) => state.tiles);
  const isWanted = useMapSettings((state) => state.hills);
  useEffect(() => {
    if (!map || !isWanted) return;
    let isGone = false;
    const takeOff: (() => void)[] = [];
    for (const tile of tiles)
      void hillLayer(tile, inks).then((layer) => {
        if (!layer || isGone) return;
        map.addLayer(layer);
        takeOff.push(() => map.removeLayer(layer));
      });
    return () => {
      isGone = true;
      takeOff.forEach((one) => one());
    };
  }, [map, tiles, isWanted, inks]);
}

export function useLocators(map: Map | undefined, inks: Inks): void {
  const isWanted = useMapSettings((state) => state.locators);
  useEffect(() => (map && isWanted ? addLocators(map, inks) : undefined), [map, isWanted, inks]);
}
