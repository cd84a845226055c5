import { halfBoxDeg } from '@mistpeak/core/aprs/plain-position';
import type { AprsReport } from '@mistpeak/core/aprs/report';
import type { Seen } from '@mistpeak/core/watch/sighting';

/** Length of a degree of latitude, metres, to a percent. */
const METRES_PER_DEGREE = 111_000;

/** What a packet says of its sender that a watch wants to know: where, and whether in need. */
export function seenOf(report: AprsReport | undefined, atMs: number): Seen {
  const { latitudeDeg, longitudeDeg, ambiguityDigits = 0 } = report ?? {};
  if (!report || latitudeDeg === undefined || longitudeDeg === undefined) return { atMs };
  // APRS 1.0.1, "Mic-E data format" (message 0) and the symbol tables (`\!`, emergency).
  const isEmergency =
    report.micE?.message === 'emergency' || (report.symbol?.table === '\\' && report.symbol.code === '!');
  const doubtM = halfBoxDeg(ambiguityDigits) * METRES_PER_DEGREE;
  return {
    atMs,
    position: { latitudeDeg, longitudeDeg },
    isEmergency,
    ...(doubtM > 0 ? { doubtM } : {}),
  };
}
