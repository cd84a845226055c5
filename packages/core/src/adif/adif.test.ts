import { bandOf, formatAdif } from './adif.js';

// from: ADIF 3.1.4, "ADI file format", "Band enumeration"
it('is fields with their lengths, a header and an end of each record', () => {
  const contact = {
    call: 'QH2HUT-1',
    stationCall: 'QH4MPK',
    onMs: Date.UTC(2026, 9, 12, 14, 5, 9),
    offMs: Date.UTC(2026, 9, 13, 0, 1),
    mode: 'PKT',
    frequencyMHz: 144.8,
    comment: 'naïve',
  };
  expect(formatAdif([contact]).split('\n').slice(1)).toEqual([
    '<ADIF_VER:5>3.1.4',
    '<PROGRAMID:8>Mistpeak',
    '<EOH>',
    '<CALL:8>QH2HUT-1<STATION_CALLSIGN:6>QH4MPK<QSO_DATE:8>20261012<TIME_ON:6>140509' +
      '<QSO_DATE_OFF:8>20261013<TIME_OFF:6>000100<MODE:3>PKT<FREQ:8>144.8000<BAND:2>2m<COMMENT:5>na?ve<EOR>',
    '',
  ]);
  const { offMs: _, frequencyMHz: __, comment: ___, ...bare } = contact;
  expect(formatAdif([bare])).toMatch(/<MODE:3>PKT<EOR>/);
});

it.each([
  [144, '2m'],
  [148, '2m'],
  [143.999, undefined],
  [28, '10m'],
  [433.5, '70cm'],
] as const)('%d MHz is %s', (mhz, band) => expect(bandOf(mhz)).toBe(band));
