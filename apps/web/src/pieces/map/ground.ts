/** What a feature of the common open schema is, whichever of its names the map gives to the layer. */
export type Ground =
  | 'land'
  | 'water'
  | 'stream'
  | 'wood'
  | 'built'
  | 'building'
  | 'road'
  | 'track'
  | 'border'
  | 'place'
  | 'summit';

export function groundOf(layer: string, kind: string): Ground | undefined {
  if (['earth', 'land', 'background'].includes(layer)) return 'land';
  if (['waterway', 'waterways', 'rivers'].includes(layer)) return 'stream';
  if (['water', 'ocean', 'lakes'].includes(layer))
    return /river|stream|canal/.test(kind) ? 'stream' : 'water';
  if (['landcover', 'landuse', 'natural', 'park', 'parks'].includes(layer))
    return /wood|forest|park|nature/.test(kind)
      ? 'wood'
      : /resid|urban|industr|commerc/.test(kind)
        ? 'built'
        : undefined;
  if (['building', 'buildings'].includes(layer)) return 'building';
  if (['transportation', 'roads', 'road', 'transit'].includes(layer))
    return /path|track|foot|cycle|steps|rail/.test(kind) ? 'track' : 'road';
  if (['boundary', 'boundaries', 'admin'].includes(layer)) return 'border';
  if (['mountain_peak', 'peaks'].includes(layer) || (layer === 'pois' && kind === 'peak')) return 'summit';
  return ['place', 'places', 'place_label'].includes(layer) ? 'place' : undefined;
}
