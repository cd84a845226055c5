import type { Control } from '../ax25/control.js';
import { KnownSessions } from './known-sessions.js';

const [A, B] = ['QH4MPK', 'QH2HUT-1'];
const said = (kind: string, source = A, destination = B) => ({
  source,
  destination,
  control: { kind, pf: true } as Control,
});
const after = (...frames: ReturnType<typeof said>[]): KnownSessions => {
  const known = new KnownSessions();
  for (const frame of frames) known.note(frame);
  return known;
};
const modulo = (known: KnownSessions, source = A, destination = B): number =>
  known.moduloOf({ source, destination });

// from: AX.25 v2.2, 4.3.3.2: SABME sets up a connection with numbers to 127
describe('a connection', () => {
  it('counts to 7 where it was not heard setting up, and to 127 both ways after SABME', () => {
    expect(modulo(new KnownSessions())).toBe(8);
    const known = after(said('SABME'), said('UA', B, A));
    expect([modulo(known), modulo(known, B, A)]).toEqual([128, 128]);
    expect(modulo(known, A, 'QH2HUT-2')).toBe(8);
  });

  it.each(['SABM', 'DISC', 'DM', 'FRMR'])('no longer does so after %s of either end', (kind) => {
    expect(modulo(after(said('SABME'), said(kind, B, A)))).toBe(8);
    expect(modulo(after(said('SABME'), said(kind)))).toBe(8);
  });

  it.each(['UA', 'RR', 'I', 'UI', 'XID'])('goes on doing so after %s', (kind) =>
    expect(modulo(after(said('SABME'), said(kind, B, A)))).toBe(128),
  );

  it('that was set up long ago gives way to many later ones', () => {
    const known = after(said('SABME'));
    for (let i = 0; i < 499; i++) known.note(said('SABME', `N${i}`, B));
    expect(modulo(known)).toBe(128);
    known.note(said('SABME', 'N499', B));
    expect([modulo(known), modulo(known, 'N0', B)]).toEqual([8, 128]);
  });
});
