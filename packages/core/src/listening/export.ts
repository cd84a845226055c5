import Papa from 'papaparse';
import { shownText, toLatin1 } from '../bits/octets.js';
import { formatMonitorText } from '../ax25/monitor-text.js';
import { describeReport, type Manner } from '../aprs/describe.js';
import type { AprsReport } from '../aprs/report.js';
import type { TrackFile, TrackFix } from '../tracks/track.js';
import { kindOfPacket } from './filter.js';
import { wayWords, type HeardPacket } from './heard-packet.js';

/** One line for each, its time before it: `2026-04-18T09:30:00.000Z QH7CTA-9>APZMPK:>hello`; what is no sign of a line is shown as one. */
export function monitorLines(packets: readonly HeardPacket[]): string {
  return packets
    .map(({ atMs, frame }) => `${new Date(atMs).toISOString()} ${shownText(formatMonitorText(frame))}\n`)
    .join('');
}

/** RFC 4180; degrees to a tenth of a metre, SI units. What looks like a formula is none. */
export function packetCsv(packets: readonly HeardPacket[], manner: Manner): string {
  const fields = [
    'time',
    'source',
    'destination',
    'path',
    'way',
    'kind',
    'latitude',
    'longitude',
    'says',
    'info',
  ];
  const data = packets.map((packet) => {
    const { atMs, frame, report } = packet;
    const inner = innermost(report);
    return [
      new Date(atMs).toISOString(),
      frame.source,
      frame.destination,
      frame.path.map(({ call, used }) => `${call}${used ? '*' : ''}`).join(' '),
      wayWords(packet),
      kindOfPacket(packet),
      inner?.latitudeDeg === undefined ? '' : Number(inner.latitudeDeg.toFixed(6)),
      inner?.longitudeDeg === undefined ? '' : Number(inner.longitudeDeg.toFixed(6)),
      report ? describeReport(report, manner) : frame.control.kind,
      shownText(toLatin1(frame.info)),
    ];
  });
  return `${Papa.unparse({ fields, data }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}

function innermost(report: AprsReport | undefined): AprsReport | undefined {
  let inner = report;
  while (inner?.thirdParty) inner = inner.thirdParty.report;
  return inner;
}

/** Where each station and object was, in the order in which it was told; copies and standing still are one point. */
export function tracksOf(packets: readonly HeardPacket[]): TrackFile[] {
  const tracks = new Map<string, TrackFix[]>();
  for (const { atMs, frame, report } of packets) {
    let [name, inner] = [frame.source, report];
    while (inner?.thirdParty) [name, inner] = [shownText(inner.thirdParty.source), inner.thirdParty.report];
    if (inner?.latitudeDeg === undefined || inner.longitudeDeg === undefined) continue;
    if (inner.object) name = shownText(inner.object.name);
    const { latitudeDeg, longitudeDeg, altitudeM } = inner;
    const points = tracks.get(name) ?? [];
    tracks.set(name, points);
    const last = points.at(-1);
    if (last?.latitudeDeg === latitudeDeg && last.longitudeDeg === longitudeDeg) continue;
    points.push({ latitudeDeg, longitudeDeg, atMs, ...(altitudeM === undefined ? {} : { altitudeM }) });
  }
  return [...tracks].map(([name, points]) => ({ name, points }));
}
