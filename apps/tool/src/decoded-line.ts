import { parseAprs } from '@mistpeak/core/aprs/parse';
import type { Modulo } from '@mistpeak/core/ax25/control';
import { decodeFrame, encodeFrame, isCommand, NO_LAYER_3, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { fromHex, fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import { parseInternetLine, type InternetPacket } from '@mistpeak/core/internet/line';

/** A decoded line as the tool prints it; docs/tool.md describes it. */
export type DecodedLine =
  | { readonly line: number; readonly ok: true; readonly frame: object; readonly aprs?: object }
  | {
      readonly line: number;
      readonly ok: false;
      readonly malformed: string;
      readonly at: number;
      readonly rawHex: string;
    };

/** Text is hex when it has nothing but hex digits and blanks, else a monitor line. */
export function decodeText(line: number, text: string, modulo: Modulo): DecodedLine {
  const trimmed = text.trim();
  if (/^[0-9a-f\s]+$/i.test(trimmed)) {
    const octets = fromHex(trimmed);
    return isMalformed(octets) ? refused(line, octets, fromLatin1(text)) : decodeOctets(line, octets, modulo);
  }
  const frame = parseMonitorText(text);
  if (!isMalformed(frame)) return decodeOctets(line, encodeFrame(frame), 8);
  // The refusal of the stricter form is the better help where neither fits.
  const packet = parseInternetLine(text);
  return isMalformed(packet) ? refused(line, frame, fromLatin1(text)) : decodedPacket(line, packet);
}

/** Of a line that could not be sent on the air there are no control octets: it stands for a UI frame. */
function decodedPacket(line: number, { source, destination, path, info }: InternetPacket): DecodedLine {
  const control = { kind: 'UI', pf: false };
  const frame = { source, destination, path, control, command: null, pid: NO_LAYER_3, infoHex: toHex(info) };
  return { line, ok: true, frame, aprs: parseAprs(info, destination) };
}

export function decodeOctets(line: number, octets: Uint8Array, modulo: Modulo): DecodedLine {
  const frame = decodeFrame(octets, modulo);
  if (isMalformed(frame)) return refused(line, frame, octets);
  const isAprs = frame.control.kind === 'UI' && frame.pid === NO_LAYER_3;
  const aprs = isAprs ? { aprs: parseAprs(frame.info, frame.destination) } : {};
  return { line, ok: true, frame: describeFrame(frame), ...aprs };
}

export function refused(line: number, { malformed, at }: Malformed, raw: Uint8Array): DecodedLine {
  return { line, ok: false, malformed, at, rawHex: toHex(raw) };
}

function describeFrame(frame: Ax25Frame): object {
  const { source, destination, path, control, pid, info } = frame;
  return {
    source,
    destination,
    path,
    control,
    command: isCommand(frame),
    ...(pid === undefined ? {} : { pid }),
    infoHex: toHex(info),
  };
}
