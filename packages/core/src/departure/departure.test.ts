import { fromLibrary } from '../kit/library.js';
import { checksOf, type Check, type Seen } from './checklist.js';
import { cutInWords, isCutProved, judgeCut, type CameUp, type CutAsked } from './power-cut.js';

const DAY = 86_400_000;
const NOW = 200 * DAY;
const ASKED: CutAsked = {
  askedAtMs: NOW - 60_000,
  bootId: 'a',
  links: ['TNC', 'modem'],
  addresses: ['10.0.0.5'],
};
const UP: CameUp = {
  nowMs: NOW,
  bootId: 'b',
  uptimeS: 48.4,
  openLinks: ['TNC', 'modem'],
  addresses: ['10.0.0.5', '10.1.1.1'],
  isLockClosed: true,
};
const SEEN: Seen = { nowMs: NOW, gateways: 5, links: [{ name: 'TNC', isOpen: true }] };
const HEADLESS = fromLibrary('headless-12v', 'c');
const PHONE = fromLibrary('old-phone', 'p');
const check = (
  id: string,
  seen: Partial<Seen> = {},
  parts = [HEADLESS],
  wantsMail = true,
): Check | undefined => checksOf(parts, wantsMail, { ...SEEN, ...seen }).find((one) => one.id === id);

describe('a power cut', () => {
  it('that brought everything back proves it', () => {
    const cut = judgeCut(ASKED, UP);
    expect(isCutProved(cut)).toBe(true);
    expect(cutInWords(cut)).toBe('came up by itself in 48 s with TNC, modem, the same address, locked');
  });

  it.each([
    ['only Mistpeak was ended', { bootId: 'a' }, /was not cut off/],
    ['a link stays shut', { openLinks: ['TNC'] }, /with TNC, without modem/],
    ['another address', { addresses: ['10.0.0.6'] }, /another address/],
    ['armed', { isLockClosed: false }, /armed: it must not be/],
  ])('proves nothing where %s', (_, more, words) => {
    const cut = judgeCut(ASKED, { ...UP, ...more });
    expect(isCutProved(cut)).toBe(false);
    expect(cutInWords(cut)).toMatch(words);
  });

  it('without a network before none is asked for; without an uptime no seconds are told', () => {
    expect(judgeCut({ ...ASKED, addresses: [] }, { ...UP, addresses: [] }).hasSameAddress).toBe(true);
    const { uptimeS: _, ...rest } = UP;
    expect(cutInWords(judgeCut({ ...ASKED, links: [] }, rest))).toBe(
      'came up by itself, the same address, locked',
    );
  });
});

describe('the checklist', () => {
  it('is made of the parts: what a phone needs, what a computer without a screen needs', () => {
    const ids = (parts = [HEADLESS], mail = false): string[] =>
      checksOf(parts, mail, SEEN).map(({ id }) => id);
    expect(ids()).toEqual(
      expect.arrayContaining(['power-cut', 'own-network', 'no-display', 'second-way', 'space']),
    );
    expect(ids()).not.toContain('muted');
    expect(ids([PHONE])).toEqual(expect.arrayContaining(['muted', 'other-apps', 'paired', 'phone-charged']));
    expect(ids([PHONE])).not.toContain('power-cut');
    expect(ids([fromLibrary('laptop', 'l')])).not.toContain('no-display');
    expect(ids([PHONE], true)).toContain('password');
    expect(ids([PHONE])).not.toContain('password');
    expect(new Set(ids()).size).toBe(ids().length);
  });

  it.each<[string, Partial<Seen>, Check['state'], RegExp]>([
    ['map', {}, 'open', /^/],
    ['map', { mapCovers: true }, 'seen', /covers it/],
    ['elevation', { elevationCovers: false }, 'missing', /no elevation tile/],
    ['gateways', { gateways: 0 }, 'missing', /nobody/],
    ['gateways', {}, 'seen', /5 are known/],
    ['gateways', { listDays: 90 }, 'seen', /90 days/],
    ['gateways', { listDays: 90.5 }, 'missing', /^/],
    ['password', { mailPassword: 'none' }, 'missing', /^/],
    ['password', { mailPassword: 'locked' }, 'seen', /passphrase/],
    ['password', {}, 'open', /^/],
    ['space', { freeGb: 0.99 }, 'missing', /1.0 GB/],
    ['space', { freeGb: 1 }, 'seen', /^/],
    ['links', { links: [] }, 'missing', /no link/],
    ['links', { links: [{ name: 'TNC', isOpen: false }] }, 'missing', /not open: TNC/],
    ['links', {}, 'seen', /TNC open/],
    ['starts', { startsByItself: false }, 'missing', /mistpeak service/],
    ['starts', {}, 'open', /^/],
    ['power-cut', {}, 'missing', /not tried/],
    ['charged', { chargedHoursAgo: 72 }, 'seen', /72 h ago/],
    ['charged', { chargedHoursAgo: 72.1 }, 'missing', /^/],
    ['charged', {}, 'open', /^/],
    ['spare-fuses', {}, 'open', /^/],
  ])('%s with %j is %s', (id, seen, state, evidence) => {
    const found = check(id, seen);
    expect(found?.state).toBe(state);
    expect(found?.evidence ?? '').toMatch(evidence);
  });

  it('trusts a power cut for 90 days', () => {
    const cut = judgeCut(ASKED, UP);
    expect(check('power-cut', { cut, nowMs: NOW + 90 * DAY })?.state).toBe('seen');
    expect(check('power-cut', { cut, nowMs: NOW + 90 * DAY + 1 })?.state).toBe('missing');
    expect(check('power-cut', { cut: { ...cut, wasCutOff: false } })?.state).toBe('missing');
  });
});
