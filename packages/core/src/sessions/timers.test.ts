import { usualTimers } from './timers.js';

/*
 * arithmetic: at 1200 Bd with one digipeater 128 octets are 23 of addresses, control and PID, 128, two of FCS and two flags,
 * with what is stuffed 1241 bits: 1034.2 ms, and 300 ms of TXDELAY. An answer without them is 216 bits and TXDELAY: 480 ms.
 * One way over two legs, with a turn of 500 ms at each end: 2 (1334.2 + 480 + 1000).
 */
test('a slow channel over a digipeater', () => {
  const oneWay = 2 * (1334.2 + 480 + 1000);
  const t2 = 1334.2 + 250;
  const timers = usualTimers({ baud: 1200, txDelayMs: 300, packetOctets: 128, window: 4, digipeaters: 1 });
  expect(timers.t2Ms).toBe(Math.round(t2));
  expect(timers.leastT1Ms).toBe(Math.round(oneWay + t2 - 0.1));
  // Three more full frames of the window, each over both legs.
  expect(Math.abs(timers.firstT1Ms - (oneWay + t2 + 3 * 2 * 1334.2))).toBeLessThan(1);
  // TXDELAY, the bare question and answer over both legs: 22 octets, FCS and flags are 208 bits.
  expect(timers.earliestAnswerMs).toBe(Math.round(300 + 4 * 173.33));
  expect(timers.t3Ms).toBe(300_000);
});

test('a fast one keeps to the floor of earlier practice: three seconds, and six more for each digipeater', () => {
  const terms = { baud: 9600, txDelayMs: 100, packetOctets: 64, window: 2 };
  expect(usualTimers({ ...terms, digipeaters: 0 }).firstT1Ms).toBe(3000);
  expect(usualTimers({ ...terms, digipeaters: 1 }).firstT1Ms).toBe(9000);
  expect(usualTimers({ ...terms, digipeaters: 2 }).firstT1Ms).toBe(15_000);
});
