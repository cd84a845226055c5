import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { malformed, type Malformed } from '../bits/malformed.js';
import { MOST_POINTS, readFix, readTime, TOO_MANY, type TrackFile, type TrackFix } from './track.js';

/** Deeper than any track nests; a file made to exhaust memory goes deeper. */
const DEEPEST = 64;
const LONGEST_TEXT = 1000;

/**
 * GPX 1.1 ("GPX 1.1 Schema Documentation"), piece by piece, so that a file of any size is read without holding it: the points of
 * its tracks, or else of its routes. Entities of its own are not expanded.
 */
export class GpxReader {
  private readonly parser = new SaxesParser();
  private readonly open: string[] = [];
  private readonly tracks: TrackFix[] = [];
  private readonly routes: TrackFix[] = [];
  private name = '';
  private text = '';
  private fix: { -readonly [Key in keyof TrackFix]: TrackFix[Key] } | undefined;
  private trouble: Malformed | undefined;
  private isGpx = false;

  constructor() {
    this.parser.on('error', (error) => this.fail(error.message.replace(/\s+/g, ' ')));
    this.parser.on('opentag', (tag) => this.begin(tag));
    this.parser.on('text', (text) => {
      if (this.text.length < LONGEST_TEXT) this.text += text;
    });
    this.parser.on('cdata', (text) => {
      if (this.text.length < LONGEST_TEXT) this.text += text;
    });
    this.parser.on('closetag', ({ name }) => this.end(localName(name)));
  }

  /** The next piece of the text. False when it is known to be no track, and nothing more need be read. */
  push(piece: string): boolean {
    if (!this.trouble) this.parser.write(piece);
    return this.trouble === undefined;
  }

  finish(): TrackFile | Malformed {
    if (!this.trouble) this.parser.close();
    if (this.trouble) return this.trouble;
    if (!this.isGpx) return malformed('it is no GPX file');
    const points = this.tracks.length > 0 ? this.tracks : this.routes;
    return points.length === 0 ? malformed('it holds no track and no route') : { name: this.name, points };
  }

  private fail(reason: string): void {
    this.trouble ??= malformed(reason, this.parser.position);
  }

  private begin({ name, attributes }: SaxesTagPlain): void {
    const tag = localName(name);
    if (this.open.length === 0) this.isGpx = tag === 'gpx';
    if (!this.isGpx) return this.fail('it is no GPX file');
    if (this.open.push(tag) > DEEPEST) return this.fail('it nests too deep');
    this.text = '';
    if (tag !== 'trkpt' && tag !== 'rtept') return;
    const position = readFix(attributes.lat, attributes.lon);
    if (!position)
      return this.fail(`a point has no place on the earth: lat ${attributes.lat}, lon ${attributes.lon}`);
    this.fix = position;
  }

  private end(tag: string): void {
    this.open.pop();
    const parent = this.open.at(-1);
    const text = this.text.trim();
    this.text = '';
    if (tag === 'name' && (parent === 'trk' || parent === 'rte' || parent === 'metadata')) this.name ||= text;
    if (!this.fix) return;
    if (tag === 'ele' && text !== '' && Number.isFinite(Number(text))) this.fix.altitudeM = Number(text);
    if (tag === 'time') Object.assign(this.fix, readTime(text));
    if (tag !== 'trkpt' && tag !== 'rtept') return;
    const points = tag === 'trkpt' ? this.tracks : this.routes;
    points.push(this.fix);
    this.fix = undefined;
    if (points.length > MOST_POINTS) this.fail(TOO_MANY);
  }
}

/** Without the prefix of its namespace. */
const localName = (name: string): string => name.replace(/^.*:/, '');

export function readGpx(text: string): TrackFile | Malformed {
  const reader = new GpxReader();
  reader.push(text);
  return reader.finish();
}

/** GPX 1.1 with one track of one segment. */
export const formatGpx = (track: TrackFile): string => formatGpxTracks([track]);

/** GPX 1.1, each track with one segment. */
export function formatGpxTracks(tracks: readonly TrackFile[]): string {
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<gpx version="1.1" creator="Mistpeak" xmlns="http://www.topografix.com/GPX/1/1">',
    ...tracks.flatMap(trackLines),
    '</gpx>',
    '',
  ].join('\n');
}

function trackLines({ name, points }: TrackFile): string[] {
  const lines = points.map(({ latitudeDeg, longitudeDeg, altitudeM, atMs }) => {
    const inner = [
      altitudeM === undefined ? '' : `<ele>${altitudeM}</ele>`,
      atMs === undefined ? '' : `<time>${new Date(atMs).toISOString()}</time>`,
    ].join('');
    return `<trkpt lat="${degrees(latitudeDeg)}" lon="${degrees(longitudeDeg)}">${inner}</trkpt>`;
  });
  return [`<trk><name>${escapeXml(name)}</name><trkseg>`, ...lines, '</trkseg></trk>'];
}

/** To a centimetre. */
const degrees = (value: number): string => String(Number(value.toFixed(7)));

/** XML 1.0, "Character Data and Markup"; characters that XML has no room for are left out. */
export function escapeXml(text: string): string {
  const named: Record<string, string> = {
    '&': '&amp;',
    '<': '&lt;',
    '>': '&gt;',
    '"': '&quot;',
    "'": '&apos;',
  };

  return text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"']/g, (one) => named[one] ?? one);
}
