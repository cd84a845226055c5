/** from: the public description of B2F: proposals, their checksum, a block, and the answers to challenges. */
export const PROPOSAL = { line: 'FC EM TJKYEIMMHSRB 527 123 0', closing: 'F> 3B' };
export const BLOCK = { title: 'Hi', data: 'ABC', hex: '01054869003000' + '0203414243' + '043a' };
export const LOGINS = [
  { challenge: '23753528', password: 'FOOBAR', answer: '72768415' },
  { challenge: '23753528', password: 'FooBar', answer: '95074758' },
];
