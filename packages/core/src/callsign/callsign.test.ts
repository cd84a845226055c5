import { isDemoCall, isPlaceholderCall, parseCallSign, parseLicenceCall } from './callsign.js';
import { passcode } from './passcode.js';
import { ssidRole } from './roles.js';

describe('call signs', () => {
  it.each([
    ['qh4mpk-7', { call: 'QH4MPK', ssid: 7 }],
    [' QH4MPK ', { call: 'QH4MPK', ssid: 0 }],
    ['WIDE2-15', { call: 'WIDE2', ssid: 15 }],
  ])('reads %s', (text, call) => expect(parseCallSign(text)).toEqual(call));

  it.each(['', '-1', 'QH4MPK-16', 'QH4MPK-07', 'QH4MPK-', 'QH4MPK-1-2', 'QH4 MPK', 'SEVENCH', 'QH4MPÖ'])(
    'refuses "%s" in words',
    (text) => expect(parseCallSign(text)).toMatchObject({ malformed: expect.stringMatching(/\w{3,}/) }),
  );

  // from: ITU Radio Regulations, article 19 (form of amateur call signs); demo calls stand for the form only
  it.each(['QH4MPK', 'Q4A', '1X9TST', 'QH40ABC'.slice(0, 6)])('takes %s for a licence call', (call) =>
    expect(parseLicenceCall(call)).toBe(call),
  );

  it.each(['N0CALL', 'MYCALL', 'QH4MPK-7', 'HELLO', '12345', 'QH4', 'QH4MP1'])('takes %s for none', (text) =>
    expect(parseLicenceCall(text)).toMatchObject({ malformed: expect.any(String) }),
  );

  it('tells demo and placeholder calls', () => {
    expect(['QH4MPK-9', '1X9TST', 'n0call-3'].map(isDemoCall)).toEqual([true, false, false]);
    expect(['QH4MPK-9', '1X9TST', 'n0call-3'].map(isPlaceholderCall)).toEqual([false, false, true]);
  });

  // common practice, no source: the words that manuals put in the place of a call
  it.each([
    'N0CALL',
    'N1CALL',
    'N9CALL-9',
    'NOCALL',
    'MYCALL',
    'MY7CAL',
    'MY0CALL',
    'N5NAME',
    'T3ST',
    'T8ST',
    ' n4call ',
  ])('takes %s for a placeholder', (text) => expect(isPlaceholderCall(text)).toBe(true));
  it.each(['N1CAL', 'N1CALM', 'AN1CALL', 'MYCALX', 'T33ST', '1X9TST'])('takes %s for none', (text) =>
    expect(isPlaceholderCall(text)).toBe(false),
  );

  it('knows the convention of SSIDs', () => {
    expect([0, 7, 9, 13].map(ssidRole)).toEqual([
      'home or primary station',
      'handheld',
      'primary mobile',
      'weather station',
    ]);
  });
});

describe('passcode', () => {
  // from: the published hash, worked out independently
  it.each(['N0CALL', 'n0call', 'N0CALL-12'])('of %s is 13023', (call) => expect(passcode(call)).toBe(13023));
});
