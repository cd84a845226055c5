import fc from 'fast-check';
import { isMalformed, type Malformed } from '../bits/malformed.js';
import { formatGeoJson, readGeoJson } from './geojson.js';
import { formatGpx, GpxReader, readGpx } from './gpx.js';
import { formatKml } from './kml.js';
import { thinnedOut, type TrackFile } from './track.js';

// from: GPX 1.1 Schema Documentation, trkType, trksegType, wptType
const GPX = `<?xml version="1.0"?>
<gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><metadata><name>Outing</name></metadata>
<wpt lat="1" lon="2"><name>not of the track</name></wpt>
<trk><name>To the crag &amp; back</name><trkseg>
<trkpt lat="-29.6" lon="-11.4"><ele>120.5</ele><time>2026-10-12T14:00:00Z</time></trkpt>
<trkpt lat="-29.61" lon="-11.41"/>
</trkseg><trkseg><trkpt lat="-29.62" lon="-11.42"><time>never</time><ele/></trkpt></trkseg></trk></gpx>`;

const CUT: TrackFile = {
  name: 'Outing',
  points: [
    { latitudeDeg: -29.6, longitudeDeg: -11.4, altitudeM: 120.5, atMs: Date.UTC(2026, 9, 12, 14) },
    { latitudeDeg: -29.61, longitudeDeg: -11.41 },
    { latitudeDeg: -29.62, longitudeDeg: -11.42 },
  ],
};
const reason = (read: TrackFile | Malformed): string => (isMalformed(read) ? read.malformed : 'a track');

describe('GPX', () => {
  it('is read with all segments, heights and times; waypoints are no track', () =>
    expect(readGpx(GPX)).toEqual(CUT));

  it('is read the same at any cut', () => {
    for (let size = 1; size < 40; size++) {
      const reader = new GpxReader();
      for (let at = 0; at < GPX.length; at += size) reader.push(GPX.slice(at, at + size));
      expect(reader.finish()).toEqual(CUT);
    }
  });

  it('takes a route where there is no track, and a name in CDATA or behind a prefix', () => {
    const route =
      '<g:gpx xmlns:g="u"><g:rte><g:name><![CDATA[A < B]]></g:name><g:rtept lat="1" lon="2"/></g:rte></g:gpx>';
    expect(readGpx(route)).toEqual({ name: 'A < B', points: [{ latitudeDeg: 1, longitudeDeg: 2 }] });
  });

  it.each([
    ['', '1:0: document must contain a root element.'],
    ['<kml/>', 'it is no GPX file'],
    ['<gpx/>', 'it holds no track and no route'],
    [
      '<gpx><trk><trkseg><trkpt lat="91" lon="0"/></trkseg></trk></gpx>',
      'a point has no place on the earth: lat 91, lon 0',
    ],
    [
      '<gpx><trk><trkseg><trkpt lat="" lon="0"/></trkseg></trk></gpx>',
      'a point has no place on the earth: lat , lon 0',
    ],
    [`<gpx>${'<a>'.repeat(70)}`, 'it nests too deep'],
  ])('%s is refused: %s', (text, why) => expect(reason(readGpx(text))).toBe(why));

  it('that is cut off is refused, and entities of its own are not expanded', () => {
    expect(reason(readGpx(GPX.slice(0, -20)))).toMatch(/unclosed tag/);
    const bomb = `<!DOCTYPE gpx [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><gpx><trk><name>&b;</name></trk></gpx>`;
    expect(reason(readGpx(bomb))).toMatch(/undefined entity/);
  });

  it('tells at once when nothing more need be read', () => {
    const reader = new GpxReader();
    expect(reader.push('<gpx><trk>')).toBe(true);
    expect(reader.push('</rte>')).toBe(false);
    expect(reader.push(' ')).toBe(false);
  });
});

describe('GeoJSON', () => {
  // from: RFC 7946, 1.5 "Examples": longitude before latitude
  it('is read: lines before points', () => {
    const text = `{"type":"FeatureCollection","features":[
      {"type":"Feature","geometry":{"type":"Point","coordinates":[102,0.5]},"properties":{"time":"2026-10-12T14:00:00Z"}},
      {"type":"Feature","geometry":{"type":"LineString","coordinates":[[102,0],[103,1,55]]},"properties":{"name":"L"}}]}`;
    expect(readGeoJson(text)).toEqual({
      name: 'L',
      points: [
        { latitudeDeg: 0, longitudeDeg: 102 },
        { latitudeDeg: 1, longitudeDeg: 103, altitudeM: 55 },
      ],
    });
  });

  it('of points alone is their track, with times', () => {
    const point = (time: string, lon: number) =>
      `{"type":"Feature","geometry":{"type":"Point","coordinates":[${lon},1]},"properties":{"time":"${time}"}}`;
    const text = `{"type":"FeatureCollection","features":[${point('2026-10-12T14:00:00Z', 1)},${point('x', 2)}]}`;
    expect(readGeoJson(text)).toMatchObject({
      points: [{ longitudeDeg: 1, atMs: Date.UTC(2026, 9, 12, 14) }, { longitudeDeg: 2 }],
    });
  });

  it('of several lines and a bare geometry is read', () => {
    expect(readGeoJson('{"type":"MultiLineString","coordinates":[[[1,2]],[[3,4]]]}')).toMatchObject({
      points: [{ longitudeDeg: 1 }, { longitudeDeg: 3 }],
    });
  });

  it.each([
    ['{', /^it is no JSON/],
    ['3', /^it is no GeoJSON/],
    ['{"type":"Topology"}', /^it is no GeoJSON/],
    ['{"type":"FeatureCollection","features":[null,3]}', /^it holds no line/],
    ['{"type":"LineString","coordinates":[[181,0]]}', /\[181,0\] is no place/],
    ['{"type":"LineString","coordinates":[["1","2"]]}', /is no place/],
    ['{"type":"LineString","coordinates":[null]}', /null is no place/],
    ['{"type":"LineString","coordinates":3}', /^a line has no coordinates/],
  ])('%s is refused: %s', (text, why) => expect(reason(readGeoJson(text))).toMatch(why));
});

const fix = fc.record(
  {
    latitudeDeg: fc.integer({ min: -9e8, max: 9e8 }).map((x) => x / 1e7),
    longitudeDeg: fc.integer({ min: -18e8, max: 18e8 }).map((x) => x / 1e7),
    altitudeM: fc.integer({ min: -400, max: 9000 }),
    atMs: fc.integer({ min: 0, max: 4e12 }),
  },
  { requiredKeys: ['latitudeDeg', 'longitudeDeg'] },
);

describe('back and forth', () => {
  it('GPX keeps every fact, whatever the name', () =>
    fc.assert(
      fc.property(fc.array(fix, { minLength: 1, maxLength: 20 }), fc.string(), (points, name) => {
        const read = readGpx(formatGpx({ name, points })) as TrackFile;
        expect(read.points).toEqual(
          points.map((point) => ({
            ...point,
            latitudeDeg: point.latitudeDeg + 0,
            longitudeDeg: point.longitudeDeg + 0,
          })),
        );
      }),
    ));

  it('GeoJSON keeps places and heights', () => {
    const read = readGeoJson(formatGeoJson(CUT)) as TrackFile;
    expect(read).toEqual({ name: 'Outing', points: CUT.points.map(({ atMs: _, ...point }) => point) });
    expect(formatGeoJson(CUT)).toContain('"coordTimes":["2026-10-12T14:00:00.000Z",null,null]');
  });

  it('junk is safe', () =>
    fc.assert(
      fc.property(fc.string(), fc.json(), (text, json) => {
        readGpx(text);
        readGpx(`<gpx>${text}</gpx>`);
        readGeoJson(text);
        readGeoJson(json);
      }),
    ));
});

it('is thinned out evenly, with both ends', () => {
  const points = Array.from({ length: 11 }, (_, i) => i);
  expect(thinnedOut(points, 3)).toEqual([0, 5, 10]);
  expect(thinnedOut(points, 11)).toBe(points);
  expect(thinnedOut(points, 10)).toHaveLength(10);
});

describe('KML', () => {
  // from: KML 2.2, OGC 07-147r2, "kml:coordinates": longitude, latitude, altitude
  it('holds tracks and places, escaped', () => {
    const text = formatKml(
      'Trip',
      [CUT],
      [{ name: 'QH1ANR', about: 'A & B', latitudeDeg: 1, longitudeDeg: 2 }],
    );
    expect(text).toContain('<coordinates>-11.4,-29.6,120.5 -11.41,-29.61 -11.42,-29.62</coordinates>');
    expect(text).toContain('<description>A &amp; B</description><Point><coordinates>2,1</coordinates>');
  });
});
