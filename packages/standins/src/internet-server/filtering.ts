import { parseAprs } from '@mistpeak/core/aprs/parse';
import type { AprsReport } from '@mistpeak/core/aprs/report';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { wayTo } from '@mistpeak/core/geo/position';
import { parseFilter, type FilterPart } from '@mistpeak/core/internet/filter';
import type { InternetPacket } from '@mistpeak/core/internet/line';

const KIND_OF: Partial<Record<AprsReport['type'], string>> = {
  position: 'p',
  'mic-e': 'p',
  object: 'o',
  item: 'i',
  message: 'm',
  ack: 'm',
  rej: 'm',
  bulletin: 'm',
  announcement: 'm',
  query: 'q',
  status: 's',
  telemetry: 't',
  weather: 'w',
};

/** Whether a packet goes to who asked for that (public description of server-side filters); messages for him always do. */
export function filterOf(text: string, call: string): (packet: InternetPacket) => boolean {
  const parts = parseFilter(text);
  if (isMalformed(parts)) return () => true;
  return (packet) => {
    const report = parseAprs(packet.info, packet.destination);
    const { addressee } = report.message ?? {};
    if (addressee !== undefined && callWithoutSsid(addressee) === callWithoutSsid(call)) return true;
    return parts.length === 0 || parts.some((part) => fits(part, packet, report));
  };
}

function fits(part: FilterPart, { source }: InternetPacket, report: AprsReport): boolean {
  switch (part.kind) {
    case 'range':
      return placeOf(report, (place) => wayTo(place, part).distanceKm <= part.km);
    case 'area':
      return placeOf(
        report,
        ({ latitudeDeg, longitudeDeg }) =>
          latitudeDeg <= part.northDeg &&
          latitudeDeg >= part.southDeg &&
          longitudeDeg >= part.westDeg &&
          longitudeDeg <= part.eastDeg,
      );
    case 'begins with':
      return part.texts.some((text) => source.startsWith(text));
    case 'calls':
      return part.texts.some((text) =>
        text.endsWith('*') ? source.startsWith(text.slice(0, -1)) : source === text,
      );
    case 'kinds':
      return part.letters.includes(KIND_OF[report.type] ?? '?');
    case 'around me':
      // The island is smaller than any circle that one would ask for.
      return true;
  }
}

function placeOf(
  { latitudeDeg, longitudeDeg }: AprsReport,
  is: (place: { latitudeDeg: number; longitudeDeg: number }) => boolean,
): boolean {
  return latitudeDeg !== undefined && longitudeDeg !== undefined && is({ latitudeDeg, longitudeDeg });
}
