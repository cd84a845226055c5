import { fromLatin1, toHex, toLatin1 } from '../bits/octets.js';
import { encodeBlocks, isChecked, nextPart } from './block.js';
import { challengeAnswer } from './login.js';
import { isPrompt, parseAnnounced, parseForwarding, parseSid, speaksB2 } from './lines.js';
import { BLOCK, LOGINS, PROPOSAL } from './mail.vectors.js';
import {
  checksumOf,
  closes,
  formatAnswers,
  formatClosing,
  formatProposal,
  inOrder,
  parseAnswers,
  parseProposal,
} from './proposal.js';
import { TROUBLES, troubleOf } from './trouble.js';

it.each(LOGINS)('the answer to a challenge ($password)', ({ challenge, password, answer }) =>
  expect(challengeAnswer(challenge, password)).toBe(answer),
);

it('a proposal and its checksum as published', () => {
  const proposal = { mid: 'TJKYEIMMHSRB', octets: 527, packedOctets: 123 };
  expect(formatProposal(proposal)).toBe(PROPOSAL.line);
  expect(parseProposal(PROPOSAL.line)).toEqual(proposal);
  expect(formatClosing([PROPOSAL.line])).toBe(PROPOSAL.closing);
  expect([PROPOSAL.closing, 'F>', 'F> 3C', 'F> x'].map((line) => closes(line, [PROPOSAL.line]))).toEqual([
    true,
    true,
    false,
    false,
  ]);
  expect(checksumOf([])).toBe(0);
  for (const bad of ['FC EM', 'FC EM A 1', 'FC XX A 1 2 0', 'FC EM THIRTEENSIGNS 1 2 0'])
    expect(parseProposal(bad)).toHaveProperty('malformed');
  expect(parseProposal('FC CM A 1 2')).toEqual({ mid: 'A', octets: 1, packedOctets: 2 });
});

it('a block as published, and what is read of it at any cut', () => {
  const octets = encodeBlocks(BLOCK.title, fromLatin1(BLOCK.data), 0, 6);
  expect(toHex(octets)).toBe(BLOCK.hex);
  const kinds: string[] = [];
  let input = octets;
  for (let next = nextPart(input); next; next = nextPart(input)) {
    kinds.push(next.part.kind === 'data' ? toLatin1(next.part.octets) : next.part.kind);
    for (let cut = 0; cut < next.taken; cut++) expect(nextPart(input.subarray(0, cut))).toBeUndefined();
    input = input.subarray(next.taken);
  }
  expect([kinds, isChecked(0x41 + 0x42 + 0x43, 0x3a), isChecked(0x41, 0x3a)]).toEqual([
    ['title', 'ABC', 'end'],
    true,
    false,
  ]);
});

it('a title of another alphabet, and one that goes on from an offset', () => {
  const octets = encodeBlocks('für ☂', fromLatin1('0123456789'), 8, 6);
  expect(nextPart(octets)?.part).toEqual({ kind: 'title', title: 'f\xfcr ?', offset: 8 });
  expect(nextPart(octets.subarray(10))?.part).toMatchObject({ kind: 'data', octets: fromLatin1('01234589') });
  expect(toHex(encodeBlocks('', new Uint8Array(), 0, 6))).toBe('0103003000' + '0400');
});

it('a length of 0 is 256; long data goes in blocks of 250; a title is cut, an offset beyond digits is wrong', () => {
  const full = nextPart(Uint8Array.of(2, 0, ...new Uint8Array(256).fill(9)));
  expect(full).toMatchObject({ taken: 258, part: { kind: 'data' } });
  expect(nextPart(Uint8Array.of(2, 0, ...new Uint8Array(255)))).toBeUndefined();
  const blocks = encodeBlocks('x'.repeat(99), new Uint8Array(251), 0, 6);
  expect([blocks[1], blocks[2 + 83], blocks[3 + 83], blocks[2 + 83 + 252], blocks[3 + 83 + 252]]).toEqual([
    83, 2, 250, 2, 1,
  ]);
  expect(nextPart(Uint8Array.of(1, 5, 65, 0, 66, 0, 67))?.part).toEqual({ kind: 'wrong', octet: 1 });
  expect(nextPart(Uint8Array.of(13, 10, 65))).toEqual({ part: { kind: 'wrong', octet: 65 }, taken: 3 });
});

it('answers of every kind, in their signs and their letters', () => {
  expect(parseAnswers('FS +-=HRE!12', 7)).toEqual([
    { kind: 'yes' },
    { kind: 'no' },
    { kind: 'later' },
    { kind: 'held' },
    { kind: 'rejected' },
    { kind: 'error' },
    { kind: 'resume', offset: 12 },
  ]);
  expect(parseAnswers('fs y n l a7', 4)).toEqual([
    { kind: 'yes' },
    { kind: 'no' },
    { kind: 'later' },
    { kind: 'resume', offset: 7 },
  ]);
  expect(formatAnswers(parseAnswers('FS +-=HRE!12', 7) as [])).toBe('FS +-=HRE!12');
  for (const [bad, count] of [
    ['FS +', 2],
    ['FS ++', 1],
    ['FS ?', 1],
    ['FX +', 1],
  ] as const)
    expect(parseAnswers(bad, count)).toHaveProperty('malformed');
});

it('what is urgent goes first, then what is small', () => {
  const queue = [
    { precedence: 'routine', packedOctets: 10 },
    { precedence: 'flash', packedOctets: 900 },
    { precedence: 'routine', packedOctets: 5 },
    { precedence: 'priority', packedOctets: 1 },
  ] as const;
  expect(inOrder(queue).map(({ packedOctets }) => packedOctets)).toEqual([900, 1, 5, 10]);
});

it('lines of the greeting', () => {
  expect(parseSid('[HUT-2.0-x-B2FHM$]')).toEqual({ name: 'HUT', version: '2.0-x', can: 'B2FHM$' });
  for (const bad of ['HUT-2-B2F$', '[HUT]', '[HUT-2-B2F]', '[HUT-2-B2F$] x'])
    expect(parseSid(bad)).toHaveProperty('malformed');
  expect(['B2FHM$', 'BFHM$', 'B2M$'].map((can) => speaksB2({ name: '', version: '', can }))).toEqual([
    true,
    false,
    false,
  ]);
  expect(['QH5VEL-10>', '>', 'Hut via QH5VEL >', '; a > ', '[x>', 'a > b'].map(isPrompt)).toEqual([
    true,
    true,
    true,
    false,
    false,
    false,
  ]);
  expect(parseForwarding(';FW: qh4mpk QH4MPK-1|123')).toEqual([
    { address: 'QH4MPK' },
    { address: 'QH4MPK-1', answer: '123' },
  ]);
  expect(parseForwarding(';PR: 1')).toBeUndefined();
  expect(parseAnnounced(';PM: QH4MPK ABC 512 QH7CTA lamps, two')).toEqual({
    to: 'QH4MPK',
    mid: 'ABC',
    octets: 512,
    from: 'QH7CTA',
    subject: 'lamps, two',
  });
  expect(parseAnnounced(';PM: QH4MPK ABC many')).toBeUndefined();
});

it.each([
  ['*** Secure login failed - account password does not match', 'wrong password'],
  ['*** Mail service unavailable, try later', 'service out of reach'],
  ['*** Unable to contact the server', 'service out of reach'],
  ['*** QH4MPK is not registered', 'not allowed'],
  ['*** Checksum error', 'wrong checksum'],
  ['*** Bye', 'they broke off'],
] as const)('%s', (line, kind) => expect(troubleOf(line)).toBe(kind));

it('every ending says what happened, what it means and what to try', () => {
  for (const trouble of Object.values(TROUBLES))
    for (const text of Object.values(trouble)) expect(text).toMatch(/^[A-Z].*[.]$/s);
});
