import fc from 'fast-check';
import { MPS_PER_KNOT } from '../units/units.js';
import { LineCutter, readGpsLine } from './gps-line.js';

describe('a line of a position receiver', () => {
  // from: NMEA 0183, the usual example of GGA and RMC; checksums by the rule of the standard.
  it('of NMEA', () => {
    expect(readGpsLine('$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47')).toMatchObject({
      position: {
        latitudeDeg: expect.closeTo(48.1173, 4) as number,
        longitudeDeg: expect.closeTo(11.51667, 4) as number,
      },
      altitudeM: 545.4,
    });
    expect(readGpsLine('$GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W*6A')).toMatchObject(
      {
        speedMps: expect.closeTo(22.4 * MPS_PER_KNOT, 6) as number,
        courseDeg: 84.4,
        timeMs: Date.UTC(1994, 2, 23, 12, 35, 19),
      },
    );
  });

  it('of the daemon', () =>
    expect(
      readGpsLine('{"class":"TPV","mode":3,"lat":-29.6,"lon":-11.4,"altMSL":120.5,"speed":1.5,"track":360}'),
    ).toEqual({
      position: { latitudeDeg: -29.6, longitudeDeg: -11.4 },
      speedMps: 1.5,
      courseDeg: 0,
      altitudeM: 120.5,
    }));

  it('tells the time, where a line has date and time', () => {
    // NMEA 0183; sums by its rule.
    const rmc = (time: string, date: string): string => {
      const body = `GPRMC,${time},A,4807.038,N,01131.000,E,022.4,084.4,${date},003.1,W`;
      const sum = [...body].reduce((all, sign) => all ^ sign.charCodeAt(0), 0);
      return `$${body}*${sum.toString(16).toUpperCase().padStart(2, '0')}`;
    };
    expect(readGpsLine(rmc('235959.50', '311279'))?.timeMs).toBe(Date.UTC(2079, 11, 31, 23, 59, 59, 500));
    expect(readGpsLine(rmc('000000', '010180'))?.timeMs).toBe(Date.UTC(1980, 0, 1));
    expect(readGpsLine(rmc('120000', ''))?.timeMs).toBeUndefined();
    expect(readGpsLine(rmc('12000', '010180'))?.timeMs).toBeUndefined();
    const daemon = '{"class":"TPV","mode":2,"lat":1,"lon":2,"time":"2026-10-12T14:00:00.500Z"}';
    expect(readGpsLine(daemon)?.timeMs).toBe(Date.UTC(2026, 9, 12, 14, 0, 0, 500));
    expect(readGpsLine(daemon.replace('2026', 'x'))).toEqual({
      position: { latitudeDeg: 1, longitudeDeg: 2 },
    });
  });

  it('of the daemon at its bounds: standing, north, a pole', () => {
    const read = readGpsLine('{"class":"TPV","mode":2,"lat":90,"lon":-180,"speed":0,"track":0,"alt":-3}');
    expect(read).toEqual({
      position: { latitudeDeg: 90, longitudeDeg: -180 },
      speedMps: 0,
      courseDeg: 0,
      altitudeM: -3,
    });
    expect(
      readGpsLine('{"class":"TPV","mode":2,"lat":0,"lon":180.1,"speed":-0.1,"track":-0.1}'),
    ).toBeUndefined();
  });

  it.each([
    '',
    'hello',
    '{',
    'null',
    '{"class":"TPV","mode":1,"lat":1,"lon":2}',
    '{"class":"SKY","mode":3,"lat":1,"lon":2}',
    '{"class":"TPV","mode":2,"lat":91,"lon":2}',
    '{"class":"TPV","mode":2,"lat":"1","lon":"2","speed":-1,"track":361}',
    '$GPRMC,123519,V,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W*7D',
    // A wrong sum, and none: a garbled line must not move the station.
    '$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*48',
    '$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,',
  ])('%s says nothing', (line) => expect(readGpsLine(line)).toBeUndefined());

  it('junk is safe', () =>
    fc.assert(
      fc.property(fc.string(), fc.json(), (text, json) => void [readGpsLine(`$${text}`), readGpsLine(json)]),
    ));
});

describe('lines', () => {
  it('come whole at any cut, with any ending', () => {
    const text = 'one\r\ntwo\n\rthree\rfour\n';
    for (let cut = 0; cut <= text.length; cut++) {
      const cutter = new LineCutter();
      expect([...cutter.push(text.slice(0, cut)), ...cutter.push(text.slice(cut))]).toEqual([
        'one',
        'two',
        'three',
        'four',
      ]);
    }
  });

  it('that never end are dropped', () => {
    const cutter = new LineCutter();
    expect(cutter.push('x'.repeat(5000))).toEqual([]);
    expect(cutter.push('x'.repeat(4096))).toEqual([]);
    expect(cutter.push('\nnext\n')).toEqual(['x'.repeat(4096), 'next']);
  });
});
