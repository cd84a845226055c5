import { geoEquirectangular } from 'd3-geo';
import { geoProject } from 'd3-geo-projection';
import type { Feature, MultiPolygon, Position } from 'geojson';
import { feature } from 'topojson-client';
import type { GeometryCollection, Topology } from 'topojson-specification';
import topology from 'world-atlas/land-50m.json';

const HALF_TURN = 180;

/**
 * The coasts of the world at 1 : 50 million (Natural Earth, public domain). They are cut along the antimeridian by
 * projecting them onto a sheet of one unit a degree, whose edges the projection clips to; else stray areas cross the map.
 */
export function coastsOfTheWorld(): Feature<MultiPolygon> {
  const world = topology as unknown as Topology<{ land: GeometryCollection }>;
  const sheet = geoEquirectangular()
    .scale(HALF_TURN / Math.PI)
    .translate([0, 0])
    .precision(0);
  const { features } = geoProject(feature(world, world.objects.land), sheet) as unknown as {
    features: Feature<MultiPolygon>[];
  };
  return {
    type: 'Feature',
    properties: { kind: 'land' },
    geometry: {
      type: 'MultiPolygon',
      coordinates: features.flatMap(({ geometry }) =>
        geometry.coordinates.map((polygon) => polygon.map((ring) => ring.map(upright))),
      ),
    },
  };
}

/** The sheet's y grows downwards; and the poles lie at infinity on the map that we draw. */
function upright([x = 0, y = 0]: Position): Position {
  return [x, Math.max(-85, Math.min(85, -y))];
}
