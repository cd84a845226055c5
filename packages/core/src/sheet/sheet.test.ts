import { FIFTEEN } from '../chain/fifteen.vectors.js';
import { followChain } from '../chain/follow.js';
import type { Chain } from '../chain/chain.js';
import { fromLibrary, type LibraryKind } from '../kit/library.js';
import type { Item } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';
import { SCHOOLS, chosenOption } from './schools.js';
import type { SheetFacts } from './context.js';
import { setupSheet, sheetValues, stepCount, type Sheet, type SheetStep } from './sheet.js';
import type { Route } from './routes.js';
import { isStepDone, sheetToJson, sheetToMarkdown, standingTicks, type StepTick } from './sheet-text.js';

const FACTS: SheetFacts = { call: 'QH4MPK-7', channelMHz: 144.8, isMoving: false };
const chainOf = (purpose: Purpose, kinds: readonly LibraryKind[], change?: (item: Item) => Item): Chain =>
  followChain(
    kinds.map((kind) => fromLibrary(kind)).map((item) => change?.(item) ?? item),
    purpose,
  ) as Chain;
const valueOf = (sheet: Sheet, setting: string): string | undefined =>
  sheet.sections.flatMap(({ steps }) => steps).find((step) => step.setting === setting)?.value;

const HANDHELD = chainOf('messages', ['tnc-handheld', 'phone', 'phone-map']);
const HEADSET = chainOf('mail', ['two-pin-handheld', 'headset-cable', 'tablet', 'phone-mail']);
const HUT = chainOf('beacon', ['fm-mobile', 'six-pin-cable', 'usb-packet-modem', 'single-board', 'mistpeak']);

describe('the setup sheet', () => {
  it.each(FIFTEEN.map((built) => [built.id, built] as const))(
    'of chain %s has the radio first, the app last, and each step told whole',
    (_, { parts, purpose }) => {
      const chain = chainOf(purpose, parts);
      const sheet = setupSheet(chain, FACTS, {});
      const [first, second] = sheet.sections;
      // What takes days and other people comes before the radio.
      expect((first?.title === 'Days before' ? second : first)?.item.kind).toBe('radio');
      if (parts.length > 1) expect(sheet.sections.at(-1)?.item.kind).toBe('app');
      expect(stepCount(sheet)).toBeGreaterThan(5);
      const steps = sheet.sections.flatMap(({ steps: all }) => all);
      expect(new Set(steps.map(({ id }) => id)).size).toBe(steps.length);
      for (const { setting, value, reason, check, source } of steps)
        for (const text of [setting, value, reason, check, source]) expect(text).not.toBe('');
    },
  );

  it('tells at its step what the planner found, and adds to it', () => {
    const [radio] = setupSheet(HANDHELD, FACTS, {}).sections;
    const found = radio?.steps.filter(({ now }) => now !== undefined);
    expect(found?.map(({ setting, value, now }) => [setting, value, now])).toEqual([
      ['Own beaconing', 'off', 'own beaconing is on, and uses the same TNC'],
      ['KISS', 'on', 'KISS is off in its menu'],
    ]);
    // The step keeps its reason and its check, and knows which switch it sets.
    expect(found?.[1]).toMatchObject({
      reason: 'An app drives the TNC by it.',
      set: { itemId: 'tnc-handheld', switch: 'kiss', to: 'on' },
    });
    expect(radio?.steps.filter(({ setting }) => setting === 'KISS')).toHaveLength(1);
  });

  it.each<[Purpose, readonly LibraryKind[], string]>([
    ['beacon', ['fm-mobile', 'six-pin-cable', 'usb-packet-modem', 'single-board', 'mistpeak'], '144.800 MHz'],
    ['session', ['tnc-handheld', 'laptop', 'desk-mail'], 'the channel agreed with the far station'],
    ['peer mail', ['tnc-handheld', 'laptop', 'desk-mail'], 'the channel agreed with the far station'],
    ['mail', ['tnc-handheld', 'laptop', 'desk-mail'], 'the gateway’s channel, from the list'],
  ])('for %s the frequency is told', (purpose, parts, value) =>
    expect(valueOf(setupSheet(chainOf(purpose, parts), FACTS, {}), 'Frequency')).toBe(value),
  );

  it('has the radio’s own beacon off under an app, on when the radio does it alone', () => {
    expect(valueOf(setupSheet(HANDHELD, FACTS, {}), 'Own beaconing')).toMatch(/^off/);
    expect(valueOf(setupSheet(chainOf('beacon', ['tnc-handheld']), FACTS, {}), 'Own beaconing')).toBe('on');
  });

  it('names the channel for APRS, the list for mail', () => {
    expect(valueOf(setupSheet(HUT, FACTS, {}), 'Frequency')).toBe('144.800 MHz');
    expect(valueOf(setupSheet(HEADSET, FACTS, {}), 'Frequency')).toContain('from the list');
  });

  it('asks for VOX only where sound keys, and mutes the sounds there', () => {
    expect(valueOf(setupSheet(HEADSET, FACTS, {}), 'VOX')).toContain('on');
    expect(valueOf(setupSheet(HEADSET, FACTS, {}), 'Notification sounds')).toContain('muted');
    expect(valueOf(setupSheet(HANDHELD, FACTS, {}), 'VOX')).toBeUndefined();
  });

  it('lists what leaves by radio and by internet', () => {
    expect(setupSheet(HANDHELD, FACTS, {}).routes).toEqual([
      { what: 'Handheld with built-in Bluetooth TNC, own beacon', by: 'radio', state: 'off' },
      {
        what: 'Map and message app for phones, messages and their acknowledgements',
        by: 'radio',
        state: 'as they are written',
      },
      { what: 'Map and message app for phones, position', by: 'radio', state: '30 min, or by hand' },
      {
        what: 'Map and message app for phones, position and gating',
        by: 'internet',
        state: 'off until the radio is proved',
      },
    ]);
  });

  it('warns where it applies: exposure from a mobile, driving on the move, passwords by mail, never nothing', () => {
    const ids = (chain: Chain, isMoving = false): string[] =>
      setupSheet(chain, { ...FACTS, isMoving }, {}).cautions.map(({ id }) => id);
    expect(ids(HUT)).toEqual([
      'licence',
      'identify',
      'antenna',
      'exposure',
      'unattended',
      'public',
      'battery',
      'emergency',
    ]);
    expect(ids(HANDHELD, true)).toContain('driving');
    expect(ids(HEADSET)).toContain('password');
    const peer = chainOf('peer mail', ['fm-mobile', 'tnc-six-pin', 'pocket-tnc', 'laptop', 'desk-mail']);
    expect(ids(peer)).toEqual(expect.arrayContaining(['content', 'password']));
    expect(ids(chainOf('receive', ['two-pin-handheld', 'tablet', 'phone-map-le']))).toEqual(['emergency']);
  });
});

describe('the schools', () => {
  it('are told what each is good for, and have different names', () => {
    for (const { options } of Object.values(SCHOOLS)) {
      expect(new Set(options.map(({ id }) => id)).size).toBe(options.length);
      for (const { goodFor } of options) expect(goodFor).not.toBe('');
    }
  });

  it('are chosen by the operator, else by the chain; what is not known is not followed', () => {
    expect(chosenOption('squelch', {}, HEADSET).id).toBe('lowest');
    const listening = chainOf('receive', ['two-pin-handheld', 'tablet', 'phone-map-le']);
    expect(chosenOption('squelch', {}, listening).id).toBe('open');
    expect(chosenOption('squelch', {}, HUT).id).toBe('lowest');
    expect(chosenOption('squelch', { squelch: 'higher' }, HUT).id).toBe('higher');
    expect(chosenOption('squelch', { squelch: 'none of these' }, HUT).id).toBe('lowest');
    expect(valueOf(setupSheet(HUT, FACTS, { path: 'none' }), 'Path')).toBe('none');
  });
});

describe('the sheet as text', () => {
  const sheet = setupSheet(HUT, FACTS, {});
  const step = sheet.sections[0]?.steps[0];
  const tick: StepTick = {
    stepId: step?.id ?? '',
    isDone: true,
    atMs: 0,
    measured: '−12 dBFS',
    note: 'a *star*',
  };
  const ticks = standingTicks([tick, { ...tick, atMs: -1, isDone: false }]);

  it('keeps the last word on each step', () => {
    expect(ticks.get(tick.stepId)).toEqual(tick);
    expect(standingTicks([tick, { ...tick, atMs: 1, isDone: false }]).get(tick.stepId)?.isDone).toBe(false);
  });

  it('has a step open again whose switch stands otherwise now', () => {
    const handheld = setupSheet(HANDHELD, FACTS, {});
    const step = handheld.sections[0]?.steps.find(({ setting }) => setting === 'KISS') as SheetStep;
    const done = { ...tick, stepId: step.id };
    expect(isStepDone(step, done)).toBe(false);
    expect(isStepDone({ id: step.id } as SheetStep, done)).toBe(true);
    expect(isStepDone({ id: step.id, now: 'old' } as SheetStep, done)).toBe(true);
    expect(isStepDone(step, undefined)).toBe(false);
    const text = sheetToMarkdown(HANDHELD, handheld, new Map([[step.id, done]]));
    expect(text).toMatch(/- \[ \] \*\*KISS\*\*: on\.[^\n]*\n {2}Now: KISS is off in its menu/);
  });

  it('names the school that is followed, and what it is good for', () => {
    const text = sheetToMarkdown(HUT, sheet, ticks);
    expect(text).toContain('School: lowest closed, good for quiet between packets');
    expect(sheetToMarkdown(HUT, setupSheet(HUT, FACTS, { squelch: 'higher' }), ticks)).toContain(
      'School: a step higher, good',
    );
  });

  it('is Markdown with boxes; what would be markup is escaped', () => {
    const text = sheetToMarkdown(HUT, sheet, ticks);
    expect(text).toContain('- [x] **Antenna**: connected, or a dummy load.');
    expect(text).toContain('Done 1970-01-01 00:00 UTC; −12 dBFS; a \\*star\\*');
    expect(text.match(/- \[ \]/g)).toHaveLength(stepCount(sheet) - 1);
  });

  it('begins with the cautions and ends with what leaves by which way, each only where there is any', () => {
    const text = sheetToMarkdown(HUT, sheet, ticks);
    const heads = [...text.matchAll(/^## (.*)$/gm)].map(([, head]) => head);
    expect(heads[0]).toBe('Cautions');
    expect(heads.at(-1)).toBe('What leaves, by which way');
    expect(text).toMatch(/## Cautions\n\n- Only with your licence/);
    const { what, by, state } = sheet.routes[0] as Route;
    expect(text).toContain(`## What leaves, by which way\n\n- ${what}, by ${by}: ${state}`);
    const bare = sheetToMarkdown(HUT, { ...sheet, cautions: [], routes: [] }, ticks);
    expect(bare).not.toContain('## Cautions');
    expect(bare).not.toContain('What leaves');
    expect([...bare.matchAll(/^## (.*)$/gm)]).toHaveLength(sheet.sections.length);
  });

  it('is JSON with the same steps', () => {
    const json = JSON.parse(sheetToJson(HUT, sheet, ticks)) as {
      sections: { steps: { doneAt?: string }[] }[];
    };
    expect(json.sections.flatMap(({ steps }) => steps)).toHaveLength(stepCount(sheet));
    expect(json.sections[0]?.steps[0]?.doneAt).toBe('1970-01-01T00:00:00.000Z');
  });

  it('gives its values by device and setting, for the record', () => {
    expect(sheetValues(sheet)['FM mobile, 6-pin data socket, 25 W, Frequency']).toBe('144.800 MHz');
  });
});
