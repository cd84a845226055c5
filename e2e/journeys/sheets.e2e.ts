import { expect, test } from '@playwright/test';
import { TEN_MORE } from '@mistpeak/core/chain/ten-more';
import { kitOfUsual, USUAL_CHAINS } from '@mistpeak/core/chain/usual-chains';
import { formatKit } from '@mistpeak/core/kit/kit-file';
import { PURPOSES } from '@mistpeak/core/proof/ladder';
import { testBench } from '../bench.js';
import { begin } from '../pages.js';

test.describe.configure({ mode: 'serial' });
const bench = testBench('start');

/**
 * What whoever knows the chain looks for on its sheet, and what would make him put it down. Common practice, no source.
 * Written from what the job needs, not from what came out.
 */
const REVIEW: Readonly<
  Record<string, { readonly must: readonly RegExp[]; readonly mustNot: readonly RegExp[] }>
> = {
  A: {
    must: [
      /steady tone on the other channel/,
      /44\.1 or 48 kHz/,
      /Notification sounds: muted/,
      /all 4 home/,
      /never transmits/,
    ],
    mustNot: [/VOX: on/, /own beaconing/i, /flow control/i, /gateway’s SSID/i, /now: /i],
  },
  B: {
    must: [/serial line of the interface/, /port 8001/, /1200 baud AFSK/, /second receiver/],
    mustNot: [/VOX opens/, /keying tone:/i, /bluetooth: paired/i, /display shows KISS/],
  },
  C: {
    must: [
      /VOX: on; the most sensitive end first/,
      /500 ms to begin with/,
      /Mail account: made/,
      /10, unless the list says another/,
      /with nothing queued/,
    ],
    mustNot: [/Path: /, /echo/i, /symbol:/i, /Send by internet/, /keying tone:/i],
  },
  D: {
    must: [
      /KISS: on/,
      /Own beaconing: off/,
      /paired here, forgotten elsewhere/,
      /Data channel: fixed/,
      /one program only/,
    ],
    mustNot: [/VOX/, /deviation/, /Output volume/, /never transmits/, /RMS/],
  },
  E: {
    must: [/Band of the TNC: A/, /Voice channel: on band B/, /KISS goes to: Bluetooth/, /N is what is left/],
    mustNot: [/VOX/, /sound card of/, /deviation/, /Flow control/],
  },
  F: {
    must: [/KISS goes to: Bluetooth/, /Bluetooth LE/, /Own beaconing: off/],
    mustNot: [/VOX/, /deviation/, /sample rate/],
  },
  G: {
    must: [/TXDELAY: 300 ms/, /paired here, forgotten elsewhere/, /Battery and switch/],
    mustNot: [/VOX/, /never transmits/, /display shows KISS/, /Own beaconing/],
  },
  H: {
    must: [/Flow control: none/, /list the ports, plug or pair, list again/, /Transmit lock/],
    mustNot: [/VOX/, /Send by internet/, /display shows KISS/],
  },
  I: {
    must: [/port 8001/, /loaded at home/, /Network: joined/, /Send by radio/],
    mustNot: [/transmit lamp/i, /dummy load/, /Power: /, /echo/i, /Path: /],
  },
  J: {
    must: [
      /Network: own hotspot/,
      /Second way in/,
      /Level from afar/,
      /Cold start/,
      /serial line of the interface/,
    ],
    mustNot: [/VOX: /, /bluetooth: paired/i],
  },
  K: {
    must: [
      /upper sideband data/,
      /ALC/,
      /CAT: port and speed/,
      /list of today/,
      /sound card inside the radio/,
    ],
    mustNot: [/squelch/i, /deviation/, /echo/i, /AFSK/, /1200 baud/, /10, unless/],
  },
  L: {
    must: [
      /C CALL-1/,
      /set at the prompt/,
      /Serial speed: the same here and in the program/,
      /control operator/,
    ],
    mustNot: [/KISS/, /Path: /, /echo/i, /own beaconing/i],
  },
  M: {
    must: [
      /isolated from the starter battery/,
      /below the wire’s rating/,
      /strapped down and ventilated/,
      /loaded at home/,
    ],
    mustNot: [/dummy load/, /transmit lamp/i, /Power: /, /Path: /],
  },
  N: {
    must: [/Squelch: open/, /software modem/],
    mustNot: [/dummy load/, /never transmits/, /echo/i, /TXDELAY/, /muted/],
  },
  O: {
    must: [/Own beaconing: on/, /KISS: off/, /standard APRS/, /30 min, or by hand/, /Symbol: /],
    mustNot: [/display shows KISS/, /bluetooth: paired/i, /Before it is opened/, /Transmit lock/],
  },
  P: {
    must: [
      /steady tone on the other channel/,
      /44\.1 or 48 kHz/,
      /Mail account: made/,
      /10, unless the list says another/,
    ],
    mustNot: [/VOX: /, /Path: /, /echo/i, /internet: /],
  },
  Q: {
    must: [/KISS over Bluetooth LE/, /Mail account: made/, /test address/, /every ten minutes/],
    mustNot: [/Output volume/, /VOX/, /deviation/, /Path: /],
  },
  R: {
    must: [/30 min, or by hand/, /Transmit lock/, /TXDELAY/, /list the ports/],
    mustNot: [/VOX/, /Output volume/, /display shows KISS/, /Where to stand/],
  },
  S: {
    must: [/sound of the receiver/, /loaded at home/, /Receive by radio/],
    mustNot: [/dummy load/, /squelch/i, /transmit lamp/i, /Power: /, /interface/],
  },
  T: {
    must: [/KISS: off/, /standard APRS/, /Path: /],
    mustNot: [/Before it is opened/, /bluetooth: paired/i, /VOX/, /KISS goes to/],
  },
  U: {
    must: [/Far station: its call/, /control operator/, /every ten minutes/],
    mustNot: [/gateway/i, /Mail account/, /test address/, /Path: /],
  },
  V: {
    must: [/port 8001/, /serial line of the interface/, /Transmit lock/],
    mustNot: [/VOX: /, /bluetooth: paired/i],
  },
  W: {
    must: [
      /command and data ports/,
      /10, unless the list says another/,
      /sound card of the interface/,
      /one call, into a second receiver/,
    ],
    mustNot: [/AFSK/, /1200 baud/, /KISS/, /Path: /, /echo/i],
  },
  X: {
    must: [
      /VOX: on; the most sensitive end first/,
      /2 min, or by speed and turns/,
      /from the GPS, with a fix/,
    ],
    mustNot: [/30 min, or by hand/, /own beaconing/i, /bluetooth: paired/i],
  },
  Y: {
    must: [/KISS: on/, /Far station: its call with SSID/, /Flow control: none/],
    mustNot: [/gateway/i, /Mail account/, /Path: /, /echo/i, /VOX/],
  },
};

/** Those that are on the move. */
const MOVING = 'MX';
const ALL = [...USUAL_CHAINS, ...TEN_MORE];

test('the sheets of twenty-five chains, as whoever knows each of them reads them', async ({ page }) => {
  await begin(page, bench.running.address);
  for (const usual of ALL)
    await test.step(`${usual.id}: ${usual.what}`, async () => {
      const { id, purpose } = usual;
      const kit = kitOfUsual(usual);
      const answer = await page.request.put(`${bench.running.address}/api/v1/kit`, {
        data: { file: formatKit(kit) },
      });
      expect(answer.ok()).toBe(true);
      await page.goto(`${bench.running.address}/chain?for=${encodeURIComponent(purpose)}`);
      const names = kit.filter(({ kind }) => kind !== 'cable').map(({ name }) => name);
      const chain = page.getByRole('article').filter({
        has: page
          .getByRole('list', { name: /^Chain \d+/ })
          .filter({ hasText: new RegExp(names.map(escaped).join('.*')) }),
      });
      await chain
        .getByRole('button', { name: /the setup sheet, \d+ steps/ })
        .first()
        .click();
      await expect(
        page.getByRole('heading', { name: `Setup sheet: ${PURPOSES[purpose].name}` }),
      ).toBeVisible();
      if (MOVING.includes(id)) {
        await page.getByLabel('On the move').click();
        await expect(page.getByLabel('On the move')).toBeChecked();
      }
      // On paper nothing is folded.
      await page.emulateMedia({ media: 'print' });
      const lines = await page.locator('main section ol > li').allInnerTexts();
      await page.emulateMedia({ media: 'screen' });
      const text = lines.join('\n');
      const { must, mustNot } = REVIEW[id] ?? { must: [], mustNot: [] };
      expect(must.length).toBeGreaterThan(0);
      expect
        .soft({
          missing: must.filter((one) => !one.test(text)),
          wrong: mustNot.filter((one) => one.test(text)),
        })
        .toEqual({
          missing: [],
          wrong: [],
        });
    });
});

const escaped = (name: string): string => name.replace(/[+()]/g, '\\$&');
