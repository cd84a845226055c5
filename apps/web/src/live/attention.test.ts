import { attentionNow } from './attention';

it.each(['silent', 'notice', 'tone'] as const)(
  '%s: silent where the sound of this device feeds a radio',
  (how) => {
    expect(attentionNow(how, true)).toBe('silent');
    expect(attentionNow(how, false)).toBe(how);
  },
);
