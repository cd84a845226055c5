import { isMalformed } from '../bits/malformed.js';
import { USUAL_SETS } from './compose.js';
import { readSiteRow, writeSiteRow, type SiteRow } from './site-rows.js';

const ROW = {
  call: 'qh1anr-1',
  role: 'Gateway',
  latitude: '-29.5605',
  longitude: '-11.262',
  height_m: '15',
  power_w: '25',
  gain_dbi: '-3',
  note: ' on the head ',
};
const SITE: SiteRow = {
  call: 'QH1ANR-1',
  role: 'gateway',
  place: '29.5605 S 11.262 W',
  heightM: 15,
  powerW: 25,
  gainDbi: -3,
  note: 'on the head',
};

describe('a row of stations', () => {
  it('is read by the names of its columns, in whatever case and order', () => {
    expect(readSiteRow(ROW)).toEqual(SITE);
    expect(readSiteRow({ ' NOTE ': 'x', Place: 'IG40hi', Call: 'QH1TOP' })).toMatchObject({
      call: 'QH1TOP',
      note: 'x',
      role: 'digipeater',
      ...USUAL_SETS.digipeater,
    });
  });

  it('goes back and forth', () => expect(readSiteRow(writeSiteRow(SITE))).toEqual(SITE));

  it.each([
    [{ call: '' }, /^call: /],
    [{ call: 'no such call' }, /^call: /],
    [{ role: 'king' }, /^role: one of digipeater, fill-in, gateway, station$/],
    [{ latitude: '91' }, /^place: /],
    [{ longitude: '' }, /^place: /],
    [{ height_m: 'high' }, /^heightM: “high” is no number$/],
  ])('with %j is refused', (more, why) => {
    const read = readSiteRow({ ...ROW, ...more });
    expect(isMalformed(read) ? read.malformed : '').toMatch(why);
  });
});
