import type { Malformed } from '@mistpeak/core/bits/malformed';
import { readGeoJson } from '@mistpeak/core/tracks/geojson';
import { GpxReader } from '@mistpeak/core/tracks/gpx';
import type { TrackFile } from '@mistpeak/core/tracks/track';

export type TrackReply =
  | { readonly kind: 'progress'; readonly share: number }
  | { readonly kind: 'done'; readonly track: TrackFile | Malformed };

/** JSON is read whole; a GPX file of any size goes by in pieces. */
const MOST_JSON = 64 * 1024 * 1024;

self.onmessage = ({ data: file }: MessageEvent<File>): void => {
  void read(file)
    .catch((error: unknown): Malformed => ({ malformed: String(error), at: 0 }))
    .then((track) => self.postMessage({ kind: 'done', track } satisfies TrackReply));
};

async function read(file: File): Promise<TrackFile | Malformed> {
  if (!(await looksLikeXml(file)))
    return file.size > MOST_JSON
      ? {
          malformed: `a GeoJSON file of more than ${MOST_JSON / 1024 / 1024} MB is not read: save it as GPX`,
          at: 0,
        }
      : readGeoJson(await file.text());
  const reader = new GpxReader();
  const pieces = file.stream().pipeThrough(new TextDecoderStream()).getReader();
  let done = 0;
  for (let piece = await pieces.read(); !piece.done; piece = await pieces.read()) {
    done += piece.value.length;
    if (!reader.push(piece.value)) break;
    self.postMessage({ kind: 'progress', share: Math.min(1, done / file.size) } satisfies TrackReply);
  }
  return reader.finish();
}

async function looksLikeXml(file: File): Promise<boolean> {
  return (await file.slice(0, 256).text())
    .replace(/^\ufeff/, '')
    .trimStart()
    .startsWith('<');
}
