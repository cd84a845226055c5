import { FIFTEEN } from '../chain/fifteen.vectors.js';
import { followChain } from '../chain/follow.js';
import type { Chain } from '../chain/chain.js';
import { TEN_MORE } from '../chain/ten-more.js';
import { fromLibrary } from '../kit/library.js';
import { setupSheet } from './sheet.js';

/**
 * Every step, and the chains on whose sheets it stands. A to O are the chains that people build, P to Y ten more; M and X
 * move. Those that only receive: I, M, N, S. Common practice, no source.
 */
const MATRIX: Readonly<Record<string, string>> = {
  'radio/antenna': 'ABCDEFGHJKLOPQRTUVWXY',
  'radio/supply': 'HIJKLMQRUVW',
  'radio/isolator': 'M',
  'radio/vfo': 'ABCDEFGHIJKLMNOPQRTUVWXY',
  'radio/band': 'EFT',
  'radio/tncBand': 'EFT',
  'radio/voice': 'EFT',
  'radio/frequency': 'ABCDEFGHIJKLMNOPQRSTUVWXY',
  'radio/tuning': 'K',
  'radio/dataChannel': 'DEFOTY',
  'radio/mode': 'ABCDEFGHIJKLMNOPQRTUVWXY',
  'radio/squelch': 'ABCDEFGHIJLMNOPQRTUVWXY',
  'radio/vox': 'CX',
  'radio/bandwidth': 'ABCDEFGHIJLMNOPQRTUVWXY',
  'radio/power': 'ABCDEFGHJKLOPQRTUVWXY',
  'radio/tail': 'ABCDEFGHIJLMNOPQRTUVWXY',
  'radio/noise': 'ABCDEFGHIJKLMNOPQRTUVWXY',
  'radio/dataSounds': 'DEFOTY',
  'radio/ownBeacon': 'DEFOTY',
  'radio/kiss': 'DEFOTY',
  'radio/kissRate': 'DEFOTY',
  'radio/kissTo': 'EF',
  'radio/heldBy': 'DEFY',
  'radio/format': 'OT',
  'radio/call': 'OT',
  'radio/path': 'OT',
  'radio/position': 'O',
  'radio/symbol': 'O',
  'radio/comment': 'O',
  'radio/interval': 'O',
  'radio/output': 'HIJLMQRUVW',
  'radio/volume': 'ABCGNPX',
  'radio/drive': 'K',
  'cable/seat': 'ACGHKLMPQRU',
  'interface/seat': 'BIJVWX',
  'host/seat': 'S',
  'interface/charge': 'GHMQU',
  'interface/heldBy': 'BGHIJLMQRUVWX',
  'interface/txdelay': 'GHLQRU',
  'interface/speed': 'L',
  'host/ports': 'HLRUY',
  'host/pair': 'DEFGHMQUY',
  'host/sounds': 'ABCJKPVWX',
  'host/inputGain': 'IJKSVW',
  'host/outVolume': 'ABCJKPVWX',
  'host/wireless': 'IJV',
  'host/airplane': 'ACDEFGJPQX',
  'host/background': 'ACDEFGJMNPQX',
  'host/cold': 'J',
  'host/secondWay': 'J',
  'host/levelAfar': 'J',
  'app/account': 'CKPQW',
  'app/start': 'ABCDEFGJKPQUVWXY',
  'app/call': 'ABCDEFGHJKLPQRUVWXY',
  'app/device': 'ABCDEFGHIJKLMNPQRSUVWXY',
  'app/flow': 'HRUY',
  'app/tcpPort': 'BIJSV',
  'app/ptt': 'ABCJKPVWX',
  'app/tone': 'AP',
  'app/leadIn': 'ABCJPVWX',
  'app/toneTest': 'ABCJPVWX',
  'app/path': 'ABDEFGHJRVX',
  'app/position': 'BEFHRVX',
  'app/symbol': 'BEFHRVX',
  'app/comment': 'BEFHRVX',
  'app/interval': 'BEFHRVX',
  'app/radioReceive': 'ABDEFGIJMNSX',
  'app/radioSend': 'ABDEFGIJMNSX',
  'app/netReceive': 'ABDEFGIJMNSX',
  'app/netSend': 'ABDEFGIJMNSX',
  'app/map': 'IMS',
  'app/farStation': 'UY',
  'app/connect': 'L',
  'app/whoTypes': 'LUY',
  'app/gateways': 'CKPQW',
  'app/gatewaySsid': 'CPQW',
  'app/firstSession': 'CKPQUW',
  'app/selfTest': 'CKPQW',
  'app/identify': 'CKPQUWY',
  'app/poll': 'CKPQW',
  'app/stand': 'ABCDEFGPY',
  'app/arm': 'HRV',
};

const ALL = [...FIFTEEN, ...TEN_MORE];
const MOVING = 'MX';
const sheets = ALL.map(({ id, parts, purpose, set }) => {
  const items = parts.map((kind) => {
    const item = fromLibrary(kind);
    return { ...item, switches: { ...item.switches, ...set?.[kind] } };
  });
  const facts = { call: 'QH4MPK', channelMHz: 144.8, isMoving: MOVING.includes(id) };
  return { id, sheet: setupSheet(followChain(items, purpose) as Chain, facts, {}) };
});

/** The chains on whose sheets a step stands, by kind of device and step. */
function found(): Record<string, string> {
  const table: Record<string, string> = {};
  for (const { id, sheet } of sheets)
    for (const { item, steps } of sheet.sections)
      for (const step of steps) {
        const key = `${item.kind}/${step.id.split('/').at(-1)}`;
        if (!table[key]?.endsWith(id)) table[key] = (table[key] ?? '') + id;
      }
  return table;
}

describe('every step stands where it belongs', () => {
  const table = found();
  it.each(Object.entries(MATRIX))('%s: %s', (step, chains) => expect(table[step]).toBe(chains));

  it('and no other step stands anywhere, but what is to be set before', () => {
    const others = Object.keys(table).filter((step) => !(step in MATRIX));
    expect(others).toEqual([]);
  });
});

describe('common care', () => {
  const sections = sheets.flatMap(({ sheet }) => sheet.sections);

  it('stands below what is special to the chain, and never hides what is not as it must be', () => {
    for (const { steps } of sections) {
      const first = steps.findIndex(({ isCare }) => isCare);
      if (first >= 0) expect(steps.slice(first).every(({ isCare, now }) => isCare && !now)).toBe(true);
    }
    expect(sections.some(({ steps }) => steps.some(({ isCare }) => isCare))).toBe(true);
  });
});

describe('what a sheet says', () => {
  const linesOf = (id: string): string =>
    (sheets.find((one) => one.id === id)?.sheet.sections ?? [])
      .flatMap(({ steps }) => steps.map((step) => JSON.stringify(step)))
      .join('\n');

  it.each([
    ['no echo and no deviation on HF', 'K', /echo|deviation|squelch/i],
    ['no squelch reason of sound modems with a hardware TNC', 'G', /never transmits/],
    ['no KISS in the display of a tracker', 'O', /display shows KISS/],
    ['no transmit lamp where nothing is sent', 'I', /transmit lamp|echo/i],
    ['no VOX where the TNC keys', 'D', /VOX/],
    ['no VOX where a line keys', 'B', /VOX opens|VOX lets go/],
    ['no KISS for a command prompt', 'L', /KISS/],
    ['no packet tones of a modem that has its own', 'K', /AFSK|1200 baud/],
    [
      'no packet tones of such a modem on FM, and no receiver that reads them',
      'W',
      /AFSK|1200 baud|decodes|shows a packet/,
    ],
    ['no interface where the receiver gives sound by USB', 'S', /interface/],
    ['no gateway in mail from station to station', 'U', /gateway/i],
  ])('%s', (_, id, words) => expect(linesOf(id)).not.toMatch(words));

  it.each([
    ['squelch: why an open one never transmits, where a modem app listens by ear', 'C', /never transmits/],
    ['the sound card inside an HF set', 'K', /the sound card inside the radio/],
    ['the sound card of the interface', 'B', /the sound card of the interface, 1200 baud AFSK/],
    ['the test of a modem with a way of its own', 'W', /a tone, then one call, into/],
    [
      'the test of a packet modem',
      'B',
      /a tone, then one packet, into[^]*without a gap; the packet is decoded/,
    ],
    ['what N means', 'E', /N is what is left/],
    ['the sample rate of a keying tone', 'P', /44\.1 or 48 kHz/],
    ['levels before the test', 'A', /Output volume[^]*Test transmission/],
    ['the list of HF gateways by its age', 'K', /list of today/],
    ['the account before everything', 'Q', /^\{"id":"phone-mail\/account"/],
    ['the call at the prompt', 'L', /set at the prompt/],
    ['the phone as the screen of a computer without one', 'J', /phone that is its screen/],
  ])('%s', (_, id, words) => expect(linesOf(id)).toMatch(words));
});
