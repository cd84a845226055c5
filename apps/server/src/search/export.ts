import type { Manner } from '@mistpeak/core/aprs/describe';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex } from '@mistpeak/core/bits/octets';
import { monitorLines, packetCsv, tracksOf } from '@mistpeak/core/listening/export';
import { encodePcap } from '@mistpeak/core/pcap/pcap';
import { formatGeoJsonTracks } from '@mistpeak/core/tracks/geojson';
import { formatGpxTracks } from '@mistpeak/core/tracks/gpx';
import { formatKml } from '@mistpeak/core/tracks/kml';
import type { ExportFormat } from '@mistpeak/contract/export-formats';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { packetOf } from '../record/packet-of.js';

/** Entries of the record, oldest first, as a file of that form. What is no frame, or came as a line of the internet, is not in a capture. */
export function exported(
  format: ExportFormat,
  records: readonly FrameRecord[],
  manner: Manner,
): Uint8Array | string {
  if (format === 'pcap') return encodePcap(records.flatMap(capturedOf));
  const packets = records.flatMap((record) => packetOf(record) ?? []);
  switch (format) {
    case 'txt':
      return monitorLines(packets);
    case 'csv':
      return packetCsv(packets, manner);
    case 'gpx':
      return formatGpxTracks(tracksOf(packets));
    case 'geojson':
      return formatGeoJsonTracks(tracksOf(packets));
    case 'kml': {
      const tracks = tracksOf(packets);
      const places = tracks.flatMap(({ name, points }) => {
        const last = points.at(-1);
        return last ? [{ ...last, name, about: '' }] : [];
      });
      return formatKml(
        'Heard',
        tracks.filter(({ points }) => points.length > 1),
        places,
      );
    }
  }
}

function capturedOf({
  atMs,
  port,
  rawHex,
  line,
  trouble,
}: FrameRecord): { atMs: number; packet: Uint8Array }[] {
  const raw = fromHex(rawHex);
  if (line !== undefined || trouble === 'not AX.25' || isMalformed(raw) || raw.length === 0) return [];
  return [{ atMs, packet: Uint8Array.of(port << 4, ...raw) }];
}
