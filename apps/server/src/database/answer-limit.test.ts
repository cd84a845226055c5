import { troubleOf } from './trouble.js';
import { answerWithin } from './answer-limit.js';

/** Time that the test moves: what is due is called one by one, as an event loop does that was late. */
function loop() {
  let nowMs = 0;
  let due: { atMs: number; call: () => void }[] = [];
  return {
    after: (ms: number, call: () => void) => {
      const one = { atMs: nowMs + ms, call };
      due.push(one);
      return () => void (due = due.filter((other) => other !== one));
    },
    pass: (ms: number) => {
      nowMs += ms;
      const now = due.filter(({ atMs }) => atMs <= nowMs);
      due = due.filter(({ atMs }) => atMs > nowMs);
      for (const { call } of now) call();
    },
    left: () => due.length,
  };
}
const silence = new Promise<never>(() => undefined);

it('an answer comes through, and an error; nothing goes on behind them', async () => {
  const { after, left } = loop();
  expect(await answerWithin(3000, Promise.resolve(7), after)).toBe(7);
  await expect(answerWithin(3000, Promise.reject(new Error('gone')), after)).rejects.toThrow('gone');
  expect(left()).toBe(0);
});

it('silence ends after the limit, as a database that is silent', async () => {
  const { after, pass, left } = loop();
  const told = answerWithin(3000, silence, after).catch((error: unknown) => troubleOf(error));
  for (let i = 0; i < 5; i++) pass(500);
  expect(left()).toBe(1);
  pass(499);
  expect(left()).toBe(1);
  pass(1);
  expect(left()).toBe(0);
  expect(await told).toBe('silent');
});

it('a process that stood still for a minute hears what came meanwhile', async () => {
  const { after, pass } = loop();
  let answer: (value: number) => void = () => undefined;
  const told = answerWithin(3000, new Promise<number>((resolve) => (answer = resolve)), after);
  pass(60_000);
  pass(60_000);
  answer(1);
  expect(await told).toBe(1);
});
