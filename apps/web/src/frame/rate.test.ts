import { rate } from './rate';

describe('the palette', () => {
  const about = ['SSID', 'passcode', 'devices'];
  it.each([
    ['call', 1],
    ['SIGNS go', 1],
    ['passcode', 0.5],
    ['call passcode', 0.5],
    ['pscd', 0],
    ['call squelch', 0],
    ['', 1],
  ])('“%s” rates %d', (typed, rating) => expect(rate('Go to Call signs', typed, about)).toBe(rating));
});
