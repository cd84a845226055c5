/** As what a selection of the record goes out. */
export const EXPORT_FORMATS = {
  pcap: { words: 'capture (pcap)', type: 'application/vnd.tcpdump.pcap' },
  txt: { words: 'monitor text', type: 'text/plain' },
  csv: { words: 'CSV', type: 'text/csv' },
  gpx: { words: 'tracks as GPX', type: 'application/gpx+xml' },
  kml: { words: 'tracks as KML', type: 'application/vnd.google-earth.kml+xml' },
  geojson: { words: 'tracks as GeoJSON', type: 'application/geo+json' },
} as const;
export type ExportFormat = keyof typeof EXPORT_FORMATS;
