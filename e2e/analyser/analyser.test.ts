import fc from 'fast-check';
import { encodeAprs } from '@mistpeak/core/aprs/encode';
import type { AprsReport } from '@mistpeak/core/aprs/report';
import { ANY_REPORT } from '@mistpeak/core/aprs/testing/any-report';
import type { Control } from '@mistpeak/core/ax25/control';
import { carriesPid } from '@mistpeak/core/ax25/control';
import { decodeFrame, encodeFrame, uiFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { fromHex, toHex, toLatin1 } from '@mistpeak/core/bits/octets';
import { dissect, type Dissected } from './network-analyser.js';

jest.setTimeout(180_000);

const SEED = 144_800;
const APRS_FRAMES = 3500;
const LINK_FRAMES = 2000;

const call = fc
  .tuple(fc.stringMatching(/^[A-Z][A-Z0-9]{2,5}$/), fc.nat(15))
  .map(([base, ssid]) => (ssid === 0 ? base : `${base}-${ssid}`));
const path = fc.array(fc.record({ call, used: fc.boolean() }), { maxLength: 8 });
const pf = fc.boolean();
const nr = fc.nat(7);
const control: fc.Arbitrary<Control> = fc.oneof(
  fc.record({ kind: fc.constant('I' as const), pf, ns: nr, nr }),
  fc.record({ kind: fc.constantFrom('RR' as const, 'RNR' as const, 'REJ' as const), pf, nr }),
  fc.record({
    kind: fc
      .constantFrom('SABM', 'SABME', 'DISC', 'DM', 'UA', 'FRMR', 'UI', 'XID', 'TEST')
      .map((k) => k as 'UI'),
    pf,
  }),
);
const linkFrame: fc.Arbitrary<Ax25Frame> = fc
  .record({
    destination: call,
    source: call,
    path,
    cBits: fc.record({ destination: fc.boolean(), source: fc.boolean() }),
    control,
    info: fc.uint8Array({ minLength: 1, maxLength: 120 }),
  })
  .map((frame) => (carriesPid(frame.control.kind) ? { ...frame, pid: 0xf0 } : frame));

interface Sample {
  readonly report: AprsReport;
  readonly frame: Ax25Frame;
}
const anyReport = fc.oneof(...Object.values(ANY_REPORT));
const aprsFrame: fc.Arbitrary<Sample> = fc.record({ report: anyReport, source: call, path }).map((one) => {
  const { info, destination = 'APZMPK' } = encodeAprs(one.report);
  return { report: one.report, frame: uiFrame(one.source, destination, one.path, info) };
});

const samples = fc.sample(aprsFrame, { seed: SEED, numRuns: APRS_FRAMES });
const links = fc.sample(linkFrame, { seed: SEED, numRuns: LINK_FRAMES });
const frames = [...samples.map(({ frame }) => frame), ...links];
const dissected = dissect(frames.map((frame) => encodeFrame(frame)));

/** An address as the analyser cut it out: call and SSID from its seven octets by the rule of AX.25 v2.2, "Address-field encoding". */
function addressOf(hex: string): { call: string; high: boolean } {
  const octets = fromHex(hex) as Uint8Array;
  const base = [...octets.subarray(0, 6)]
    .map((octet) => String.fromCharCode(octet >> 1))
    .join('')
    .trimEnd();
  const ssid = ((octets[6] as number) >> 1) & 15;
  return { call: ssid === 0 ? base : `${base}-${ssid}`, high: (octets[6] as number) >= 0x80 };
}

const number = (found: Dissected, field: string): number | undefined => {
  const hex = found.fields.get(field);
  return hex === undefined ? undefined : Number.parseInt(hex, 16);
};

const isPolledUi = ({ control: sent }: Ax25Frame): boolean => sent.kind === 'UI' && sent.pf;

/** The first few that differ, with the frame, so that a failure can be read. */
function differing(differs: (frame: Ax25Frame, found: Dissected) => unknown): unknown[] {
  return frames
    .flatMap((frame, i) => {
      const what = differs(frame, dissected[i] as Dissected);
      return what === undefined ? [] : [{ frame: toHex(encodeFrame(frame)), what }];
    })
    .slice(0, 3);
}

describe(`an independent network analyser, ${APRS_FRAMES + LINK_FRAMES} frames of all kinds`, () => {
  it('sees every frame', () => expect(dissected).toHaveLength(APRS_FRAMES + LINK_FRAMES));

  it('reads the same addresses, SSIDs, C bits and repeated bits', () => {
    const bad = differing((frame, { fields }) => {
      const ends = [addressOf(fields.get('ax25.dst') ?? ''), addressOf(fields.get('ax25.src') ?? '')];
      const via = [...Array(8).keys()].flatMap((i) => {
        const hex = fields.get(`ax25.via${i + 1}`);
        return hex === undefined ? [] : [addressOf(hex)];
      });
      const ours = [
        { call: frame.destination, high: frame.cBits.destination },
        { call: frame.source, high: frame.cBits.source },
        ...frame.path.map(({ call: hop, used }) => ({ call: hop, high: used })),
      ];
      return JSON.stringify([...ends, ...via]) === JSON.stringify(ours) ? undefined : [...ends, ...via];
    });
    expect(bad).toEqual([]);
  });

  it('reads the same control fields, sequence numbers (modulo 8), PID and info octets', () => {
    const bad = differing((frame, found) => {
      const { control: sent } = frame;
      const theirs = {
        nr: number(found, 'ax25.ctl.n_r'),
        ns: number(found, 'ax25.ctl.n_s'),
        pid: number(found, 'ax25.pid'),
        info: found.infoHex,
      };
      const ours = {
        nr: 'nr' in sent ? sent.nr : undefined,
        ns: 'ns' in sent ? sent.ns : undefined,
        // A UI frame with P set is none to it (it compares the whole octet): PID and info are left to us as one.
        pid: isPolledUi(frame) ? undefined : frame.pid,
        info: (isPolledUi(frame) ? 'f0' : '') + toHex(frame.info),
      };
      return JSON.stringify(theirs) === JSON.stringify(ours) ? undefined : theirs;
    });
    expect(bad).toEqual([]);
  });

  it('names the same kind of frame, and the same poll or final bit', () => {
    // The two low bits; in U frames the M bits; the analyser's tables are of AX.25 v2.2, "Control-field formats".
    const unnumbered: Record<string, number> = {
      SABM: 0x2c,
      SABME: 0x6c,
      DISC: 0x40,
      DM: 0x0c,
      UA: 0x60,
      FRMR: 0x84,
      UI: 0x00,
      XID: 0xac,
      TEST: 0xe0,
    };
    const bad = differing((frame, found) => {
      const octet = number(found, 'ax25.ctl') ?? -1;
      const { kind, pf: poll } = frame.control;
      const isPoll = (octet & 0x10) !== 0;
      const code =
        kind in unnumbered ? (octet & 3) === 3 && (octet & 0xec) === unnumbered[kind] : octet % 4 !== 3;
      return isPoll === poll && code ? undefined : { octet, kind };
    });
    expect(bad).toEqual([]);
  });

  it('and what it was given is what we read back', () => {
    for (const frame of frames.slice(0, 500)) expect(decodeFrame(encodeFrame(frame))).toEqual(frame);
  });
});

/**
 * Its reading of APRS payloads is incomplete: it knows neither compressed positions nor base 91, misreads the Mic-E course,
 * and leaves comments whole. Compared are: the data type, plain positions, course and speed, PHG, weather behind a plain
 * position (temperature, pressure), text of messages, telemetry and third-party packets.
 */
describe('its reading of APRS payloads, where it has one', () => {
  const text = (found: Dissected, field: string): string | undefined => {
    const hex = found.fields.get(field);
    return hex === undefined ? undefined : toLatin1(fromHex(hex) as Uint8Array);
  };
  const each = (
    wanted: (report: AprsReport) => boolean,
  ): { report: AprsReport; info: string; found: Dissected }[] =>
    samples.flatMap(({ report, frame }, i) =>
      wanted(report) ? [{ report, info: toLatin1(frame.info), found: dissected[i] as Dissected }] : [],
    );
  const isPlain = ({ type, compression, latitudeDeg }: AprsReport): boolean =>
    (type === 'position' || type === 'object') && !compression && latitudeDeg !== undefined;

  it('the data type identifier', () => {
    const known = each(({ type }) => type !== 'mic-e');
    const bad = known.filter(({ info, found }) => {
      const dti = text(found, 'aprs.dti');
      return dti !== undefined && dti !== info[0];
    });
    expect(bad.map(({ info }) => info)).toEqual([]);
    expect(known.filter(({ found }) => text(found, 'aprs.dti') !== undefined).length).toBeGreaterThan(2000);
  });

  it('plain positions, to the hundredth of a minute', () => {
    const plain = each((report) => isPlain(report) && report.ambiguityDigits === undefined && !report.dao);
    expect(plain.length).toBeGreaterThan(150);
    for (const { report, found } of plain) {
      expect(inDegrees(text(found, 'aprs.position.lat'))).toBeCloseTo(report.latitudeDeg as number, 6);
      expect(inDegrees(text(found, 'aprs.position.long'))).toBeCloseTo(report.longitudeDeg as number, 6);
    }
  });

  it('course and speed', () => {
    const moving = each(
      (report) => isPlain(report) && report.courseDeg !== undefined && !report.bearing && !report.storm,
    );
    expect(moving.length).toBeGreaterThan(20);
    for (const { report, found } of moving) {
      expect(Number(text(found, 'aprs.msg.cse'))).toBe(report.courseDeg);
      expect(Number(text(found, 'aprs.msg.spd')) * (1852 / 3600)).toBeCloseTo(report.speedMps as number, 6);
    }
  });

  it('messages, telemetry and third-party packets', () => {
    for (const { info, found } of each(({ type }) => type === 'message' || type === 'ack'))
      expect(text(found, 'aprs.message')).toBe(info.slice(1));
    for (const { info, found } of each(({ type }) => type === 'telemetry'))
      expect(text(found, 'aprs.telemetry')).toBe(info.slice(1));
    const inner = each(({ type }) => type === 'third-party');
    expect(inner.length).toBeGreaterThan(100);
    for (const { info, found } of inner) expect(text(found, 'aprs.third_party')).toBe(info.slice(1));
  });
});

/** `4903.50N` as the analyser cut it out. */
function inDegrees(coordinate: string | undefined): number {
  const [, degrees, minutes, half] = /^(\d{2,3})(\d\d\.\d\d)([NSEW])$/.exec(coordinate ?? '') ?? [];
  const value = Number(degrees) + Number(minutes) / 60;
  return half === 'S' || half === 'W' ? -value : value;
}
