import { GuessLimit } from './guess-limit.js';

const MINUTE = 60_000;

describe('guessing', () => {
  it('is allowed five times a minute from one address, and anew a minute after each', () => {
    const limit = new GuessLimit();
    for (let i = 0; i < 5; i++) expect(limit.take('10.0.0.7', false, i * 1000)).toBe(true);
    expect(limit.take('10.0.0.7', false, 5000)).toBe(false);
    expect(limit.take('10.0.0.7', false, MINUTE - 1)).toBe(false);
    expect(limit.take('10.0.0.7', false, MINUTE)).toBe(true);
    expect(limit.take('10.0.0.7', false, MINUTE)).toBe(false);
  });

  it('of one address does not lock out another', () => {
    const limit = new GuessLimit();
    for (let i = 0; i < 9; i++) limit.take('10.0.0.7', false, 0);
    expect(limit.take('10.0.0.8', false, 0)).toBe(true);
  });

  it('of many addresses together is slower, and never locks out this machine', () => {
    const limit = new GuessLimit();
    const taken = Array.from({ length: 100 }, (_, i) => limit.take(`10.0.0.${i}`, false, 0)).filter(Boolean);
    expect(taken).toHaveLength(30);
    expect(limit.take('127.0.0.1', true, 0)).toBe(true);
    // And its own tries take nothing from the others.
    expect(limit.take('10.0.1.1', false, MINUTE)).toBe(true);
  });

  it('that was right was none', () => {
    const limit = new GuessLimit();
    for (let i = 0; i < 20; i++) {
      expect(limit.take('10.0.0.7', false, 0)).toBe(true);
      limit.giveBack('10.0.0.7', false);
    }
  });

  it('gives back that one try and no other', () => {
    const limit = new GuessLimit();
    limit.take('10.0.0.7', false, 0);
    for (let i = 0; i < 29; i++) limit.take(`10.0.1.${i}`, false, 0);
    expect(limit.take('10.0.2.1', false, 0)).toBe(false);
    limit.giveBack('10.0.0.7', false);
    expect(limit.take('10.0.2.1', false, 0)).toBe(true);
    expect(limit.take('10.0.2.2', false, 0)).toBe(false);
  });
});
