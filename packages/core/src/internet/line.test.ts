import fc from 'fast-check';
import { toLatin1 } from '../bits/octets.js';
import { isMalformed } from '../bits/malformed.js';
import { parseInternetLine, type InternetPacket } from './line.js';

// from: the public connection description of APRS-IS, "Callsign" and "q constructs"
describe('a line of the internet service', () => {
  it.each([
    ['QH4MPK-7>APZMPK,WIDE1-1,qAR,QH3PRT-10:>hi', 'QH4MPK-7', ['WIDE1-1', 'qAR', 'QH3PRT-10'], []],
    ['HOLLINHUT>APRS,TCPIP*,qAC,HOLLIN1:>hi', 'HOLLINHUT', ['TCPIP', 'qAC', 'HOLLIN1'], ['TCPIP']],
    [
      'QH4MPK-B>APZMPK,QH1ANR*,WIDE2-1,qAO,QH3PRT-5C:>hi',
      'QH4MPK-B',
      ['QH1ANR', 'WIDE2-1', 'qAO', 'QH3PRT-5C'],
      ['QH1ANR'],
    ],
    ['qh4mpk-ab>APZMPK:>hi', 'qh4mpk-ab', [], []],
  ])('%s', (line, source, path, used) => {
    const packet = parseInternetLine(line) as InternetPacket;
    expect(packet).toMatchObject({ source, path: path.map((call) => ({ call })) });
    expect(packet.path.filter((hop) => hop.used).map(({ call }) => call)).toEqual(used);
    expect(toLatin1(packet.info)).toBe('>hi');
  });

  it.each([
    ['no header', 'there is no ":" between header and info'],
    ['QH4MPK:>hi', 'there is no ">" between source and destination'],
    ['TOOLONGNAME>APRS:>hi', '"TOOLONGNAME" is no name of the internet service'],
    ['QH4MPK-123>APRS:>hi', '"QH4MPK-123" is no name of the internet service'],
    ['QH4MPK>A P:>hi', '"A P" is no name of the internet service'],
    ['QH4MPK>APRS,qar!,X:>hi', '"qar!" is no entry of a path'],
    [`QH4MPK>APRS,${'A,'.repeat(170)}A:>hi`, 'the path has too many entries'],
    ['QH4MPK>APRS:\u2603', 'a character is not one octet'],
  ])('%s: %s', (line, reason) => expect(parseInternetLine(line)).toMatchObject({ malformed: reason }));

  it('never throws, and reads only what it can write again', () => {
    const signs = fc.constantFrom(...'AQ4-q*,>:é☃ \u0000'.split(''));
    fc.assert(
      fc.property(fc.string({ unit: signs, maxLength: 60 }), (line) => {
        const packet = parseInternetLine(line);
        if (isMalformed(packet)) return;
        const header = [
          `${packet.source}>${packet.destination}`,
          ...packet.path.map(({ call }) => call),
        ].join(',');
        expect(`${header}:${toLatin1(packet.info)}`).toBe(
          line.replace(/\*(?=[,:])/g, (star, at: number) => (at < line.indexOf(':') + 1 ? '' : star)),
        );
      }),
    );
  });
});

it('where the destination or a path entry is wrong, the place of it is told', () => {
  // The last character of "QH7CTB-9>" is the ninth; the entry begins after "APZMPK,".
  expect(parseInternetLine('QH7CTB-9>AP ZM:x')).toMatchObject({ at: 9 });
  expect(parseInternetLine('QH7CTB-9>APZMPK,bad entry:x')).toMatchObject({ at: 16 });
});
