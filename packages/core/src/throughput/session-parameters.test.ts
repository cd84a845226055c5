import { recommend } from './throughput.js';
import { computedParameters, optionsOf, termsOf } from './session-parameters.js';

const LINK = {
  airRate: 1200,
  txDelayMs: 300,
  txTailMs: 20,
  persistence: 0.25,
  slotTimeMs: 100,
  fullDuplex: false,
};
const ENDS = { own: 'QH4MPK', peer: 'QH2HUT-1', via: [], accepts: false };

it('are those that the throughput recommends at one loss in twenty', () => {
  const best = recommend({ ...termsOf(LINK, 1, false), frameLoss: 0.05 });
  expect(computedParameters(LINK, 1)).toMatchObject({
    packetOctets: best.packetOctets,
    window8: best.window,
    t1Ms: best.firstT1Ms,
    retries: best.retries,
    extended: false,
  });
});

it('a window of many frames is at most half a minute of them, and at most 32', () => {
  const slow = computedParameters({ ...LINK, airRate: 300 }, 0);
  expect(slow.window128).toBe(Math.floor(30 / ((slow.packetOctets * 8) / 300)));
  expect(computedParameters({ ...LINK, airRate: 9600 }, 0).window128).toBe(32);
});

it('never waits for ever on a link that would never send', () => {
  expect(termsOf({ ...LINK, persistence: 0 }, 0, false).channelWaitMs).toBe(1500);
  expect(termsOf(LINK, 0, false).channelWaitMs).toBe(300);
});

it('make the options of a session; T1 never falls below what was set', () => {
  const parameters = computedParameters(LINK, 0);
  const options = optionsOf(ENDS, parameters, LINK);
  expect(options).toMatchObject({
    ...ENDS,
    firstT1Ms: parameters.t1Ms,
    retries: parameters.retries,
    negotiates: true,
  });
  expect(optionsOf(ENDS, { ...parameters, t1Ms: 900 }, LINK).leastT1Ms).toBe(900);
  expect(optionsOf(ENDS, { ...parameters, t1Ms: 60_000 }, LINK).leastT1Ms).toBe(options.leastT1Ms);
});
