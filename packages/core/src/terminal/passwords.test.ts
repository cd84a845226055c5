import { isMalformed } from '../bits/malformed.js';
import { oneTimePassword, parseChallenge, type Challenge } from './one-time-password.js';
import { whatIsAsked } from './prompts.js';

// from: RFC 2289, appendix C (from memory; what is reckoned here agrees)
it.each([
  ['otp-md5 0 TeSt', 'This is a test.', '9E87 6134 D904 99DD'],
  ['otp-md5 1 TeSt', 'This is a test.', '7965 E054 36F5 029F'],
  ['otp-md5 99 TeSt', 'This is a test.', '50FE 1962 C496 5880'],
  ['otp-md5 0 alpha1', 'AbCdEfGhIjK', '8706 6DD9 644B F206'],
  ['otp-md5 0 correct', "OTP's are good", 'F205 7539 43DE 4CF9'],
  ['otp-md5 1 correct', "OTP's are good", 'DDCD AC95 6F23 4937'],
  ['otp-md5 99 correct', "OTP's are good", 'B203 E28F A525 BE47'],
  ['otp-sha1 0 TeSt', 'This is a test.', 'BB9E 6AE1 979D 8FF4'],
  ['otp-sha1 1 TeSt', 'This is a test.', '63D9 3663 9734 385B'],
  ['otp-sha1 99 TeSt', 'This is a test.', '87FE C776 8B73 CCF9'],
])('%s with “%s”: %s', (challenge, phrase, answer) =>
  expect(oneTimePassword(parseChallenge(challenge) as Challenge, phrase)).toBe(answer),
);

it.each(['', 'otp-md4 1 abc', 'otp-md5 x abc', 'otp-md5 12345 abc', 'otp-sha256 1 abc'])(
  '%j is no challenge for us',
  (text) => expect(isMalformed(parseChallenge(text))).toBe(true),
);

it.each([
  ['hut login: mpk\r\nPassword: ', 'password'],
  ['\u001b[1mpassword:\u001b[0m', 'password'],
  ['Enter pass phrase >', 'password'],
  ['Your password was wrong.\rhut> ', undefined],
  ['the password: seabird\rhut>', undefined],
  ['login:', undefined],
  ['', undefined],
  ['otp-md5 97 hollin1 ext\rPassword: ', 'one-time password'],
  ['Response? otp-sha1 5 ke1234 ', 'one-time password'],
  ['otp-sha1 5 ke1234\rResponse:', 'one-time password'],
  ['otp-md5 97 hollin1\rPassword: Not known here.\rNOD4> ', undefined],
  ['otp-md5 97 hollin1\ra\rb\rPassword:', 'password'],
])('%j asks for %s', (text, kind) => expect(whatIsAsked(text)?.kind).toBe(kind));

it('gives the challenge as it is to be read', () => {
  const asked = whatIsAsked('s/key otp-md5 97 hollin1\rPassword:');
  expect(asked).toEqual({ kind: 'one-time password', challenge: 'otp-md5 97 hollin1' });
});
