/** The one function of it that is used here; the package brings no types. */
declare module 'd3-geo-projection' {
  import type { GeoProjection } from 'd3-geo';
  import type { FeatureCollection, Geometry } from 'geojson';

  export function geoProject(
    object: FeatureCollection | Geometry | object,
    projection: GeoProjection,
  ): FeatureCollection;
}
