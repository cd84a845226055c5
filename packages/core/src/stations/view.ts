import type { Modulo } from '../ax25/control.js';
import { isMalformed, type Malformed } from '../bits/malformed.js';
import { decodeFrame, NO_LAYER_3, uiFrame, type Ax25Frame } from '../ax25/frame.js';
import { parseInternetLine } from '../internet/line.js';
import { parseAprs } from '../aprs/parse.js';
import type { AprsReport } from '../aprs/report.js';

/** What a raw frame says: the raw octets are the record, this is a view of them and can be made again. */
export interface FrameView {
  readonly frame: Ax25Frame;
  /** Only for UI frames without layer 3, the form of APRS. */
  readonly report?: AprsReport;
}

/** modulo: of the connection that it belongs to, where one is known (`known-sessions`). */
export function viewFrame(raw: Uint8Array, modulo: Modulo = 8): FrameView | Malformed {
  const frame = decodeFrame(raw, modulo);
  if (isMalformed(frame)) return frame;
  const isAprs = frame.control.kind === 'UI' && frame.pid === NO_LAYER_3;
  return isAprs ? { frame, report: parseAprs(frame.info, frame.destination) } : { frame };
}

/** What a line of the internet service says: its names may be longer than AX.25 carries. */
export function viewLine(line: string): FrameView | Malformed {
  const packet = parseInternetLine(line);
  if (isMalformed(packet)) return packet;
  const { source, destination, path, info } = packet;
  return { frame: uiFrame(source, destination, path, info), report: parseAprs(info, destination) };
}
