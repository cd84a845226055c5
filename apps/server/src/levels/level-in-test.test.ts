import { Timetable } from '@mistpeak/core/network/timetable';
import { LevelInTest, TEST_LASTS_MS } from './level-in-test.js';

function rig() {
  const clock = new Timetable(0);
  const sent: (number | undefined)[] = [];
  return { clock, sent, level: new LevelInTest(clock, (_, dbfs) => sent.push(dbfs)) };
}

describe('the level of a test', () => {
  it('is that of the set-up again after the last packet, also when nobody says so', () => {
    const { clock, sent, level } = rig();
    level.move('a', -12);
    clock.advance(TEST_LASTS_MS - 1);
    level.move('a', -18);
    clock.advance(TEST_LASTS_MS - 1);
    expect(sent).toEqual([-12, -18]);
    clock.advance(1);
    expect(sent).toEqual([-12, -18, undefined]);
    expect(clock.leftovers()).toBe(0);
  });

  it('is so at once when it is said, and once', () => {
    const { clock, sent, level } = rig();
    level.restore('a');
    level.move('a', -12);
    level.restore('a');
    level.restore('a');
    clock.advance(TEST_LASTS_MS);
    expect(sent).toEqual([-12, undefined]);
  });

  it('is each link’s own', () => {
    const { clock, sent, level } = rig();
    level.move('a', -12);
    level.move('b', -18);
    level.restore('b');
    expect(sent).toEqual([-12, -18, undefined]);
    clock.advance(TEST_LASTS_MS);
    expect(sent).toHaveLength(4);
  });
});
