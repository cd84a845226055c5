import { near, type AprsVector } from './aprs.vectors.js';

/**
 * The rarer kinds and additions, after the APRS Protocol Reference 1.0.1 (2000) and the 1.1 and 1.2 addenda; the chapter's
 * title is given. Examples that were recalled say so; figures were worked out by hand from the formulas there.
 */
const KNOT = 1852 / 3600;
const FOOT = 0.3048;
const MPH = 1609.344 / 3600;
const MILE = 1609.344;

export const KIND_VECTORS: readonly AprsVector[] = [
  {
    from: '"Position and DF report data formats": timestamp, all three stamps',
    info: '/092345z4903.50N/07201.75W>Test1234',
    says: {
      type: 'position',
      messaging: false,
      timestamp: { form: 'dhm-zulu', text: '092345z', day: 9, hour: 23, minute: 45 },
      comment: 'Test1234',
    },
  },
  {
    from: 'the same',
    info: '@234517h4903.50N/07201.75W>PHG5132',
    says: { messaging: true, timestamp: { form: 'hms', text: '234517h', hour: 23, minute: 45, second: 17 } },
  },
  {
    from: '"APRS data extensions": pre-calculated radio range',
    info: '!4903.50N/07201.75W-RNG0050',
    says: { rangeM: 50 * MILE },
  },
  {
    from: '"APRS data extensions": omni-DF signal strength; S2, 80 ft, 6 dB, all round',
    info: '@092345z4903.50N/07201.75W-DFS2360',
    says: { dfs: { strengthS: 2, heightM: 80 * FOOT, gainDb: 6, directivityDeg: 0 } },
  },
  {
    from: '1.1 addendum: PHG with a rate, 7 beacons an hour (recalled)',
    info: '!4903.50N/07201.75W#PHG51327/',
    says: { phg: { beaconsPerHour: 7, directivityDeg: 90 } },
  },
  {
    from: '"DF report": bearing 270°, N = 7, range 2² miles, quality 9 = 1°',
    info: '@092345z4903.50N/07201.75W\\088/036/270/729',
    says: {
      courseDeg: 88,
      speedMps: 36 * KNOT,
      bearing: { bearingDeg: 270, hits: 7 / 8, rangeM: 4 * MILE, widthDeg: 1 },
    },
  },
  {
    from: '"DF report": compressed, 304°, N = 0: the rest means nothing',
    info: '@092345z/5L!!<*e7>{?!/304/000',
    says: { rangeM: near(20.13 * MILE, -2), bearing: { bearingDeg: 304, hits: 0 } },
  },
  {
    from: '"Area objects": filled triangle, red, offsets of 6²/1500 and 18²/1500 degree (figures by hand)',
    info: ';FLOOD    *092345z4903.50N\\07201.75Wl806/418',
    says: {
      type: 'object',
      symbol: { table: '\\', code: 'l' },
      area: {
        shape: 'triangle',
        filled: true,
        colour: 'red',
        latitudeOffsetDeg: 0.024,
        longitudeOffsetDeg: 0.216,
      },
    },
  },
  {
    from: '"Area objects": filled ellipse, colour 4, offsets of 30²/1500 and 12²/1500 degree',
    info: ';SEARCH   *092345z4903.50N\\07201.75Wl730/412',
    says: {
      area: {
        shape: 'ellipse',
        filled: true,
        colour: 'red',
        dim: false,
        latitudeOffsetDeg: 0.6,
        longitudeOffsetDeg: 0.096,
      },
    },
  },
  {
    from: '"Area objects": a line down and left with a corridor of 5 miles; colour 11',
    info: ')LINE!4903.50N\\07201.75Wl6101110{5}',
    says: { area: { shape: 'line-left', filled: false, dim: true, colour: 'cyan', corridorM: 5 * MILE } },
  },
  {
    from: '"Signpost objects"',
    info: ')I91 3N!4903.50N\\07201.75Wm{55}',
    says: { type: 'item', object: { name: 'I91 3N', live: true }, signpost: '55' },
  },
  {
    from: '"Object and item reports": compressed object',
    info: ';CAR      *092345z/5L!!<*e7>7P[ hello',
    says: { type: 'object', latitudeDeg: 49.5, courseDeg: 88, comment: 'hello' },
  },
  {
    from: '"Storm data" (recalled): hurricane, 150 kt gusting 200 kt, 980 hPa',
    info: ';BRENDA   *092345z4903.50N\\07201.75W@088/036/HC/150^200/0980>090&030%040',
    says: {
      storm: {
        kind: 'hurricane',
        sustainedWindMps: near(150 * KNOT, 6),
        gustMps: near(200 * KNOT, 6),
        pressureHpa: 980,
        hurricaneRadiusM: 90 * 1852,
        stormRadiusM: 30 * 1852,
        galeRadiusM: 40 * 1852,
      },
    },
  },
  {
    from: '"The compression type byte": `[` = 58: current fix, RMC, software',
    info: '=/5L!!<*e7>7P[',
    says: { compression: { gpsFix: 'current', source: 'RMC', origin: 2 } },
  },
  {
    from: '"Telemetry data": T#005',
    info: 'T#005,199,000,255,073,123,01101001',
    says: {
      type: 'telemetry',
      telemetry: { sequence: 5, analog: [199, 0, 255, 73, 123], digital: '01101001' },
    },
  },
  {
    from: '"Telemetry data": the sequence MIC, without a comma',
    info: 'T#MIC199,000,255,073,123,01101001',
    says: { telemetry: { sequence: 'MIC', analog: [199, 0, 255, 73, 123] } },
  },
  {
    from: 'common practice, no source: figures beyond 255, with a point',
    info: 'T#7,12.5,-3,1023,0,0,00000000,roof',
    says: { telemetry: { analog: [12.5, -3, 1023, 0, 0] }, comment: 'roof' },
  },
  {
    from: '"Telemetry … messages": names',
    info: ':N0QBF-11 :PARM.Battery,Btemp,ATemp,Pres,Alt,Camra,Chut,Sun,10m,ATV',
    says: {
      type: 'telemetry-definition',
      telemetryDefinition: {
        kind: 'PARM',
        names: ['Battery', 'Btemp', 'ATemp', 'Pres', 'Alt', 'Camra', 'Chut', 'Sun', '10m', 'ATV'],
      },
    },
  },
  {
    from: 'the same: units',
    info: ':N0QBF-11 :UNIT.v/100,deg.F,deg.F,Mbar,Kft,Click,OPEN,on,on,hi',
    says: { telemetryDefinition: { kind: 'UNIT' } },
  },
  {
    from: 'the same: coefficients',
    info: ':N0QBF-11 :EQNS.0,5.2,0,0,.53,-32,3,4.39,49,-32,3,18,1,2,3',
    says: {
      telemetryDefinition: {
        kind: 'EQNS',
        coefficients: [
          { a: 0, b: 5.2, c: 0 },
          { a: 0, b: 0.53, c: -32 },
          { a: 3, b: 4.39, c: 49 },
          { a: -32, b: 3, c: 18 },
          { a: 1, b: 2, c: 3 },
        ],
      },
    },
  },
  {
    from: 'the same: bit sense and project title',
    info: ':N0QBF-11 :BITS.10110000,N0QBF’s Big Balloon'.replace('’', "'"),
    says: { telemetryDefinition: { kind: 'BITS', active: '10110000', title: "N0QBF's Big Balloon" } },
  },
  {
    from: 'base-91 telemetry: sequence 0, channel 186 = 2·91 + 4 (arithmetic)',
    info: '!4903.50N/07201.75W-hut|!!#%|',
    says: { telemetry: { sequence: 0, analog: [186] }, comment: 'hut' },
  },
  {
    from: 'base-91 telemetry: five channels and bits, B1 the lowest (arithmetic)',
    info: '!4903.50N/07201.75W-|!"!#!$!%!&!\'!(|',
    says: { telemetry: { sequence: 1, analog: [2, 3, 4, 5, 6], digital: '11100000' } },
  },
  {
    from: '1.2 addendum, "DAO": W, human readable: 49°03.505′N, 72°01.752′W',
    info: '!4903.50N/07201.75W-!W52!',
    says: {
      latitudeDeg: near(49 + 3.505 / 60, 8),
      longitudeDeg: near(-(72 + 1.752 / 60), 8),
      dao: { datum: 'W', form: 'digits' },
    },
  },
  {
    from: '1.2 addendum, "DAO": w, base 91: 26/91 and 59/91 of a hundredth (arithmetic)',
    info: '!4903.50N/07201.75W-!w;\\!',
    says: {
      latitudeDeg: near(49 + (3.5 + 26 / 9100) / 60, 8),
      longitudeDeg: near(-(72 + (1.75 + 59 / 9100) / 60), 8),
    },
  },
  {
    from: '"Status reports": locator and symbol',
    info: '>IO91SX/- My house',
    says: { type: 'status', locator: 'IO91SX', symbol: { table: '/', code: '-' }, status: 'My house' },
  },
  {
    from: '"Status reports": beam heading 110°, 490 W',
    info: '>IO91SX/G ^B7',
    says: { locator: 'IO91SX', beam: { headingDeg: 110, erpW: 490 }, status: '' },
  },
  {
    from: '"Maidenhead grid locator beacon": the centre of the square, 51.979° N 0.458° W (arithmetic)',
    info: '[IO91SX] 35 miles NNW of London',
    says: {
      type: 'position',
      locator: 'IO91SX',
      latitudeDeg: near(51.9792, 3),
      longitudeDeg: near(-0.4583, 3),
      comment: '35 miles NNW of London',
    },
  },
  {
    from: '"Weather reports": positionless with wind behind c and s; snow after the wind (arithmetic)',
    info: '_10090556c220s004g005t077s002',
    says: { weather: { windDirectionDeg: 220, snowLast24hMm: 50.8 } },
  },
  {
    from: '"Weather data": luminosity above 999 W/m²',
    info: '!4903.50N/07201.75W_220/004g005t077l123',
    says: { weather: { luminosityWm2: 1123 } },
  },
  {
    from: '"Weather reports": compressed, wind in course and speed',
    info: '=/5L!!<*e7_7P[g005t077r000p000P000h50b09900wRSW',
    says: {
      type: 'weather',
      weather: {
        windDirectionDeg: 88,
        windSpeedMps: near(36.2 * KNOT, 1),
        temperatureC: 25,
        pressureHpa: 990,
      },
    },
  },
  {
    from: '"Weather reports", raw packet form: 1013.0 hPa, 72.0 °F, 50.0 % (fields from memory, figures by hand)',
    info: '$ULTW00310080 02D00000 2792 00000000 0000 01F4 0000 0000 0000 0010'.replaceAll(' ', ''),
    says: {
      type: 'weather',
      rawWeather: { form: '$ULTW' },
      weather: {
        windGustMps: near(4.9 / 3.6, 6),
        windDirectionDeg: 180,
        temperatureC: near(22.2222, 3),
        pressureHpa: 1013,
        humidityPercent: 50,
        windSpeedMps: near(1.6 / 3.6, 6),
      },
    },
  },
  {
    from: '"Weather reports", raw log form: missing sensors are dashes',
    info: '!!00000066013D----28710166----0158053201200210',
    says: { rawWeather: { form: '!!' }, weather: { temperatureC: near(-0.1667, 3), pressureHpa: 1035.3 } },
  },
  {
    from: '"Weather reports": raw lines whose fields the reference does not give',
    info: '#50B7500820082',
    says: { type: 'weather', rawWeather: { form: '#', fields: '50B7500820082' } },
  },
  {
    from: '"NMEA data" and NMEA 0183: RMC with its checksum',
    info: '$GPRMC,063909,A,3349.4302,N,11700.3721,W,43.022,89.3,291099,13.6,E*52',
    says: {
      type: 'nmea',
      latitudeDeg: near(33 + 49.4302 / 60, 8),
      longitudeDeg: near(-(117 + 0.3721 / 60), 8),
      speedMps: near(43.022 * KNOT, 6),
      courseDeg: 89.3,
      nmea: { sentence: 'RMC', checked: true },
    },
  },
  {
    from: '"NMEA data": GGA with altitude; the symbol from the destination GPSLV (v, a van)',
    info: '$GPGGA,102705,5157.9762,N,00029.3256,W,1,04,2.0,75.7,M,47.6,M,,*62',
    destination: 'GPSLV',
    says: {
      altitudeM: 75.7,
      timestamp: { hour: 10, minute: 27, second: 5 },
      symbol: { table: '/', code: 'v' },
    },
  },
  {
    from: '"NMEA data": GLL',
    info: '$GPGLL,2554.459,N,08020.187,W,154027.281,A',
    says: { latitudeDeg: near(25 + 54.459 / 60, 8), nmea: { sentence: 'GLL', checked: false } },
  },
  {
    from: 'NMEA 0183: waypoint, WPL (the reference prints WPT)',
    info: '$GPWPL,4917.16,N,12310.64,W,CLIFF',
    says: { object: { name: 'CLIFF', live: true }, longitudeDeg: near(-(123 + 10.64 / 60), 8) },
  },
  {
    from: '"Station capabilities, queries and responses": general query',
    info: '?APRS?',
    says: { type: 'query', query: { name: 'APRS' } },
  },
  {
    from: 'the same: within 200 miles',
    info: '?APRS? 34.02,-117.15,0200',
    says: { query: { name: 'APRS', latitudeDeg: 34.02, longitudeDeg: -117.15, radiusM: 200 * MILE } },
  },
  {
    from: 'the same: a query to one station is a message',
    info: ':KH2Z     :?APRSD',
    says: { type: 'message', query: { name: 'APRSD' }, message: { addressee: 'KH2Z' } },
  },
  {
    from: 'the same: capabilities',
    info: '<IGATE,MSG_CNT=43,LOC_CNT=14',
    says: {
      type: 'capabilities',
      capabilities: [{ name: 'IGATE' }, { name: 'MSG_CNT', value: '43' }, { name: 'LOC_CNT', value: '14' }],
    },
  },
  {
    from: '"User-defined data format"',
    info: '{Q1qwerty',
    says: { type: 'user-defined', userDefined: { userId: 'Q', packetType: '1', data: 'qwerty' } },
  },
  {
    from: '"Third-party format"',
    info: '}KH2Z>APRS,TCPIP,IGATE*:!4903.50N/07201.75W-Test',
    says: {
      type: 'third-party',
      thirdParty: {
        source: 'KH2Z',
        destination: 'APRS',
        path: ['TCPIP', 'IGATE*'],
        report: { type: 'position', comment: 'Test' },
      },
    },
  },
  {
    from: '"Messages, bulletins and announcements": group bulletin',
    info: ':BLN4WX   :Stand by your snowplows',
    says: { type: 'bulletin', bulletin: { id: '4', group: 'WX' } },
  },
  {
    from: 'the same: weather-service bulletin',
    info: ':NWS-WARN :092010z,THUNDER_STORM,AR_ASHLEY,{S9JbA',
    says: { type: 'bulletin', bulletin: { id: 'NWS', group: 'WARN' }, message: { number: 'S9JbA' } },
  },
  {
    from: '1.1 addendum, "Reply-acks": an acknowledgement that carries one too',
    info: ':KB2ICI-14:ack4B}QE',
    says: { type: 'ack', message: { number: '4B', replyAck: 'QE' } },
  },
  {
    from: '1.2 addendum, "Frequency specification": tone T107 = 107.2 Hz, +060 = +600 kHz, R25m',
    info: '!4903.50N/07201.75W-146.520MHz T107 +060 R25m evenings',
    says: {
      frequency: {
        frequencyMHz: 146.52,
        toneHz: 107.2,
        offsetKHz: 600,
        rangeKm: near((25 * MILE) / 1000, 6),
      },
      comment: 'evenings',
    },
  },
  {
    from: 'the same: in an object’s name; T094 = 94.8 Hz, range in km',
    info: ';145.675  *092345z2933.63S/01115.72WrT094 -060 R25k island repeater',
    says: {
      frequency: { frequencyMHz: 145.675, toneHz: 94.8, offsetKHz: -600, rangeKm: 25 },
      comment: 'island repeater',
    },
  },
  {
    from: 'the same: narrow, digital code, tone off, another receive frequency (recalled)',
    info: '!4903.50N/07201.75W-446.000MHz d023 442.100rx',
    says: { frequency: { frequencyMHz: 446, dcs: '023', narrow: true, receiveMHz: 442.1 } },
  },
  {
    from: '"Position report with a header of a node": ! within 40 characters',
    info: 'QH1NOD Node QTH 4903>!4903.50N/07201.75Wn',
    says: { type: 'position', latitudeDeg: near(49.058333, 5), symbol: { code: 'n', table: '/' } },
  },
  {
    from: '"Mic-E data format": custom message, south, east; ambiguity by L and Z (table by hand)',
    info: '\'(_fn"O>/]hello=',
    destination: 'A2CZLL',
    says: {
      type: 'mic-e',
      ambiguityDigits: 3,
      micE: { message: 'custom 2', gpsFix: 'current', prefix: ']', suffix: '=' },
      comment: 'hello',
    },
  },
  {
    from: '"Mic-E data format": 000 is an emergency',
    info: '`(_fn"Oj/',
    destination: '332564',
    says: {
      micE: { message: 'emergency' },
      latitudeDeg: near(-(33 + 25.64 / 60), 6),
      longitudeDeg: near(12.129, 3),
    },
  },
  {
    from: '1.2 addendum, "Mic-E type codes": a prefix with two characters at the end, and words that are none',
    info: '`(_fn"Oj/`"4T}on the ridge_%',
    destination: 'S32U6T',
    says: { altitudeM: 61, comment: 'on the ridge', micE: { prefix: '`', suffix: '_%' } },
  },
  {
    from: 'the same',
    info: '`(_fn"Oj/`on the ridge',
    destination: 'S32U6T',
    says: { comment: 'on the ridge', micE: { message: 'returning', gpsFix: 'current', prefix: '`' } },
  },
  {
    from: '"Mic-E telemetry data" (recalled): five channels in hex',
    info: '`(_fn"Oj/\'7200007d00',
    destination: 'S32U6T',
    says: { telemetry: { sequence: 'MIC', analog: [0x72, 0, 0, 0x7d, 0] } },
  },
  {
    from: 'the same: channels 1 and 3',
    info: '`(_fn"Oj/`727d',
    destination: 'S32U6T',
    says: { telemetry: { sequence: 'MIC', analog: [0x72, 0x7d], channels: [1, 3] } },
  },
  {
    from: '"Station power, height, gain, directivity": 8 is north, 0 all round',
    info: '!4903.50N/07201.75W#PHG5138',
    says: { phg: { powerW: 25, directivityDeg: 360 } },
  },
  {
    from: '"Omni-DF signal strength": the same directions',
    info: '@092345z4903.50N/07201.75W-DFS2368',
    says: { dfs: { directivityDeg: 360 } },
  },
  {
    from: '"Beam heading and ERP": codes go on behind 9 with : to @; `:` is 10² · 10 W, K the last',
    info: '>IO91SX/G ^B:',
    says: { locator: 'IO91SX', beam: { headingDeg: 110, erpW: 1000 } },
  },
  { from: 'the same', info: '>aloft ^ZK', says: { beam: { headingDeg: 350, erpW: 7290 }, status: 'aloft' } },
  {
    from: 'the same, with the end of line that some senders add',
    info: '>IO91SX/-^07\r\n',
    says: { locator: 'IO91SX', beam: { headingDeg: 0, erpW: 490 } },
  },
  {
    from: '"Status reports": the time can only be DHM zulu',
    info: '>092345zNet Control Center',
    says: { timestamp: { form: 'dhm-zulu', hour: 23 }, status: 'Net Control Center' },
  },
  { from: 'the same', info: '>234517h back at noon', says: { status: '234517h back at noon' } },
  {
    from: '"Position report with a header of a node": letters that have another meaning where they stand alone',
    info: 'TheNode 4903>!4903.50N/07201.75Wn',
    says: { type: 'position', latitudeDeg: near(49.058333, 5) },
  },
  {
    from: 'the same',
    info: '$QTH hut !4903.50N/07201.75Wn',
    says: { type: 'position', symbol: { code: 'n', table: '/' } },
  },
  {
    from: '"Complete weather report" with compressed position: wind from c and s, so that `s` is snow in inches',
    info: '=/5L!!<*e7_7P[g005t077s002',
    says: { weather: { windDirectionDeg: 88, windSpeedMps: near(36.2 * KNOT, 1), snowLast24hMm: 50.8 } },
  },
  {
    from: '"The compression type byte": six bits mean something, `{` = 90 is 58 and an unused bit',
    info: '=/5L!!<*e7>7P{',
    says: { courseDeg: 88, compression: { gpsFix: 'old', source: 'RMC', origin: 2 } },
  },
  {
    from: '"Weather reports": 360° is north as 0° is, behind the position',
    info: '!4903.50N/07201.75W_360/004g005',
    says: { weather: { windDirectionDeg: 0 } },
  },
  {
    from: 'the same, positionless',
    info: '_10090556c360s004g005',
    says: { weather: { windDirectionDeg: 0, windSpeedMps: near(4 * MPH, 6) } },
  },
  {
    from: '1.2 addendum, new weather fields (recalled): water 12.3 ft over flood stage, 13.8 V, 12·10³ nSv/h',
    info: '!4903.50N/07201.75W_220/004g005t077F0123V138X123',
    says: {
      weather: { waterLevelM: near(12.3 * FOOT, 6), batteryV: near(13.8, 6), radiationNsvPerHour: 12_000 },
    },
  },
  {
    from: 'the same: metres, below flood stage',
    info: '!4903.50N/07201.75W_220/004g005t077f-012',
    says: { weather: { waterLevelM: near(-1.2, 6) } },
  },
  {
    from: 'one bad field costs itself (figures by hand)',
    info: '!4903.50N/07201.75W_220/004g0x5t077r000h50',
    says: { weather: { temperatureC: 25, humidityPercent: 50 } },
  },
  {
    from: 'the same: too few figures',
    info: '!4903.50N/07201.75W_220/004g5t077r000h50',
    says: { weather: { temperatureC: 25, humidityPercent: 50 } },
  },
  {
    from: 'one bad time costs itself',
    info: '/09234xz4903.50N/07201.75W>Test',
    says: { type: 'position', latitudeDeg: near(49.058333, 5), comment: 'Test' },
  },
  {
    from: 'the same: weather without position',
    info: '_1009055xc220s004g005t077',
    says: { type: 'weather', weather: { windDirectionDeg: 220, temperatureC: 25 } },
  },
  {
    from: '"Mic-E data format": the first octet of senders with `]`',
    info: '\'(_fn"Oj/]hello=\r',
    destination: 'S32U6T',
    says: { comment: 'hello', micE: { gpsFix: 'current', prefix: ']', suffix: '=' } },
  },
  {
    from: 'the same: of others it is old data',
    info: '\'(_fn"Oj/>hello',
    destination: 'S32U6T',
    says: { micE: { gpsFix: 'old', prefix: '>' } },
  },
  {
    from: '1.2 addendum, "Mic-E type codes": a suffix before CR LF',
    info: '`(_fn"Oj/`on the ridge_%\r\n',
    destination: 'S32U6T',
    says: { comment: 'on the ridge', micE: { prefix: '`', suffix: '_%' } },
  },
  {
    from: '"Mic-E telemetry data" (recalled) before CR',
    info: '`(_fn"Oj/`727d\r',
    destination: 'S32U6T',
    says: { telemetry: { sequence: 'MIC', analog: [0x72, 0x7d] } },
  },
  {
    from: '"Message format": the number before the end of line that some senders add',
    info: ':QH4MPK-7 :hello{12\r\n',
    says: { message: { text: 'hello', number: '12' } },
  },
  { from: 'the same', info: ':QH4MPK-7 :hello{12 ', says: { message: { text: 'hello', number: '12' } } },
  {
    from: 'NMEA 0183: VTG, course 54.7° true, 5.5 kt',
    info: '$GPVTG,054.7,T,034.4,M,005.5,N,010.2,K*48',
    says: {
      type: 'nmea',
      courseDeg: 54.7,
      speedMps: near(5.5 * KNOT, 6),
      nmea: { sentence: 'VTG', checked: true },
    },
  },
  {
    from: 'NMEA 0183: without its checksum it is marked',
    info: '$GPVTG,360.0,T,,M,005.5,N,,K',
    says: { courseDeg: 0, nmea: { sentence: 'VTG', checked: false } },
  },
  {
    from: '"Third-party format", nested as deep as gateways do',
    info: '}A>B,TCPIP,C*:}D>E,TCPIP,F*:}G>H,TCPIP,I*:}J>K,TCPIP,L*:}M>N,TCPIP,O*:>hi',
    says: {
      thirdParty: {
        report: {
          thirdParty: {
            report: {
              thirdParty: {
                report: { thirdParty: { report: { thirdParty: { report: { status: 'hi' } } } } },
              },
            },
          },
        },
      },
    },
  },
];

/** What no reader may take for a report of these kinds, and why. */
export const KIND_REFUSED: readonly { readonly info: string; readonly reason: string }[] = [
  { info: 'Telemetry', reason: 'telemetry begins with T# and a sequence number' },
  { info: 'T#005,199,,255,073,123,01101001', reason: 'a telemetry channel is not a number' },
  { info: 'T#005,1,2,3,4,5,hello', reason: 'the digital channels are eight 0 or 1' },
  { info: '$GPGSV,3,1,12', reason: 'the sentence is not GGA, RMC, GLL, VTG or WPL' },
  { info: '$GPGLL,2554.459,N,08020.187,W,154027.281,A*00', reason: 'the checksum of the sentence is wrong' },
  { info: '$GPGLL,2554.459,N,08020.187,W,154027.281,V', reason: 'the receiver warns: no valid fix' },
  { info: '!4960.00N/07201.75W-', reason: 'the position is not of the form DDMM.hhN/DDDMM.hhW' },
  { info: '!4903.50N/07260.00W-', reason: 'the position is not of the form DDMM.hhN/DDDMM.hhW' },
  { info: '/09234xz no place', reason: 'the time is not DDHHMMz, DDHHMM/ or HHMMSSh' },
  {
    info: '_nothing at all',
    reason: 'a weather report without position begins with its time, MDHM',
  },
  { info: '$GPVTG,,T,,M,,N,,K', reason: 'the sentence has no course and no speed' },
  { info: '$GPGLL,,,,,154027.281,A', reason: 'the sentence has no latitude' },
  { info: '?', reason: 'a query is ?WORD?' },
  { info: '[XX99] nowhere', reason: 'no such letter or digit in a locator' },
  { info: ',test', reason: 'invalid or test data' },
  { info: '{x', reason: 'user-defined data has a user id and a type' },
  { info: '}QH1ANR no header', reason: 'a third-party packet is }SRC>DST,PATH:info' },
];
