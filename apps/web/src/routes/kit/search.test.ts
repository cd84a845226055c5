import { fromLibrary } from '@mistpeak/core/kit/library';
import { fits } from './search';

describe('the search of the kit', () => {
  const mobile = fromLibrary('fm-mobile');
  it.each([
    ['', true],
    ['  ', true],
    ['mobile', true],
    ['FM Data', true],
    ['6-pin', true],
    ['ptt flat', true],
    ['mobile bluetooth', false],
    ['mobiles', false],
  ])('“%s”: %s', (wanted, found) => expect(fits(mobile, wanted)).toBe(found));
});
