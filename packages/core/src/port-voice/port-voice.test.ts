import fc from 'fast-check';
import { fromHex, fromLatin1 } from '../bits/octets.js';
import { newPorts, portVoice, VOICES } from './port-voice.js';

const voiceOf = (text: string): string => portVoice(fromLatin1(text)).voice;
/** `N0CALL-7>APZMPK,WIDE1-1,WIDE2-1:>hi`, read by an independent analyser, in a KISS data frame. */
const KISS = fromHex(
  'c00082a0b49aa096e09c60868298986eae92888a624062ae92888a64406303f03e6869c0',
) as Uint8Array;

describe('what speaks at a port', () => {
  it('KISS, also after noise and in the middle of another frame', () => {
    expect(portVoice(KISS).voice).toBe('KISS');
    expect(portVoice(Uint8Array.of(1, 2, 3, ...KISS.subarray(10), ...KISS)).voice).toBe('KISS');
    expect(portVoice(Uint8Array.of(0xc0, 6, 0x54, 0x4e, 0x43, 0xc0)).voice).toBe('KISS');
  });

  it.each([
    // NMEA 0183: an example sentence that is widely printed, its checksum 47 (from memory).
    ['position sentences', '$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47\r\n'],
    ['position sentences', '5,A*1F\r\n$GNRMC,,V,,,,,,,,,,N*4D\r\n'],
    ['command prompt', 'cmd:'],
    ['command prompt', '\r\nEH?\r\ncmd:'],
    ['command prompt', 'cmd: cmd:cmd: \r\n'],
    ['packets as text', 'N0CALL-7>APZMPK,WIDE1-1:>hi\r\n'],
    ['packets as text', '1:N0CALL>BEACON <UI>:\r\nhi\r\n'],
    ['text', 'Welcome to the menu\r\nplease wait\r\n'],
    ['silence', ''],
  ])('%s: %j', (voice, text) => expect(voiceOf(text)).toBe(voice));

  it('a wrong speed is noise', () => {
    const wrong = Uint8Array.from({ length: 200 }, (_, i) => (i * 73 + (i % 7) * 31) & 0xff);
    expect(portVoice(wrong).voice).toBe('noise');
  });

  it('never fails, names what it saw, and says what to change', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 600 }), (octets) => {
        const { voice, means, change, seen } = portVoice(octets);
        expect(VOICES).toContain(voice);
        expect(means.length * change.length).toBeGreaterThan(0);
        expect(seen).toMatch(/^[\x20-\x7e]{0,80}(?: …)?$/);
      }),
    );
  });

  it('random octets are not taken for KISS', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 50, maxLength: 400 }), (octets) => {
        expect(portVoice(octets).voice).not.toBe('KISS');
      }),
    );
  });
});

it('new ports are those that the first list has not', () => {
  expect(newPorts(['/dev/ttyS0'], ['/dev/rfcomm0', '/dev/ttyS0'])).toEqual(['/dev/rfcomm0']);
});
