import { USUAL_SOUND_SETUP } from '@mistpeak/contract/sound';
import { computedParameters } from '@mistpeak/core/throughput/session-parameters';
import { gatewaysOf, parametersOf, sharesCard, viaCount } from './profile.js';

const MODEM = { name: 'program', card: 'hw:1' } as never;
const link = (phase: string, input: string): never =>
  ({ phase, settings: { kind: 'sound-card', sound: { ...USUAL_SOUND_SETUP, input } } }) as never;

it('two set-ups on one card are known before they disturb each other', () => {
  const profile = { way: 'modem', modem: 'program' } as const;
  expect(sharesCard(profile, [MODEM], [link('hearing', 'hw:1')])).toBe(true);
  expect(
    sharesCard(profile, [MODEM], [link('closed', 'hw:1'), link('failed', 'hw:1'), link('hearing', 'hw:2')]),
  ).toBe(false);
  expect(sharesCard({ way: 'packet', modem: 'program' }, [MODEM], [link('hearing', 'hw:1')])).toBe(false);
  expect(sharesCard(profile, [{ name: 'program', card: '' } as never], [link('hearing', '')])).toBe(false);
});

it('digipeaters of a way, and a service as the one gateway', () => {
  expect([viaCount(''), viaCount('A, B'), viaCount('A')]).toEqual([0, 2, 1]);
  expect(
    gatewaysOf({ way: 'tcp', host: 'mail.hollin.example', gateways: [{ call: 'X' }] } as never),
  ).toMatchObject([{ call: 'mail.hollin.example' }]);
});

it('parameters are computed, but for what was set', () => {
  const link = {
    airRate: 1200,
    txDelayMs: 300,
    persistence: 0.25,
    slotTimeMs: 100,
    txTailMs: 30,
    fullDuplex: false,
  };
  const computed = computedParameters(link, 1);
  expect(parametersOf({}, link, 1)).toEqual(computed);
  expect(parametersOf({ packetOctets: 64, window: 2 }, link, 1)).toEqual({
    ...computed,
    packetOctets: 64,
    window8: 2,
  });
});
