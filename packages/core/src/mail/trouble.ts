/** Every way in which a conversation can end but well, with what happened, what it means and what to try. */
export interface Trouble {
  readonly happened: string;
  readonly means: string;
  readonly try: string;
}

export const TROUBLES = {
  silent: {
    happened: 'Nothing came for too long, and the conversation was given up.',
    means: 'The other end, or the way to it, is gone; what was not confirmed stays in the outbox.',
    try: 'Call again; where it is the same each time, take the next gateway.',
  },
  'lost before greeting': {
    happened: 'The connection ended before the other end had said who it is.',
    means: 'It answers and is no mail gateway, or it is busy or closed.',
    try: 'Compare call and SSID: mail gateways listen on SSID 10 as a rule.',
  },
  broken: {
    happened: 'The connection broke off in mid-session.',
    means: 'What was confirmed is done; the rest stays, and a message that came in part goes on from there.',
    try: 'Call again: the next session goes on where this one ended.',
  },
  'wrong password': {
    happened: 'The login was refused: the answer to the challenge is not that of the account’s password.',
    means: 'The gateway and the way to it are well. Small and capital letters count.',
    try: 'Give the password anew under Account.',
  },
  'password needed': {
    happened: 'The other end asks for a login, and no password is known here.',
    means:
      'The gateway and the way to it are well. An account without a password is sent one by its first session.',
    try: 'Give the password under Account, or ask for it when connecting.',
  },
  'they gave a wrong password': {
    happened: 'Whoever called did not answer the challenge right.',
    means: 'Nothing was handed out.',
    try: 'Nothing need be done here.',
  },
  'service out of reach': {
    happened: 'The gateway answered, and its mail service is out of reach.',
    means: 'Radio, call and gateway are well; its way to the internet is not. The login was not even tried.',
    try: 'Take another gateway, or call this one later.',
  },
  'not allowed': {
    happened: 'The other end does not let this station in.',
    means: 'The call is not known there, or its account is closed.',
    try: 'Compare the call under Account; ask who runs the service.',
  },
  'no common form': {
    happened: 'The other end does not speak this form of mail (B2 is not among what it can).',
    means: 'It is a mailbox of another kind, or an old program.',
    try: 'Visit it in Terminal, or take another gateway.',
  },
  'wrong checksum': {
    happened: 'A checksum was wrong: octets were changed on the way.',
    means: 'Nothing of that message was taken; it stays there and is offered again.',
    try: 'Call again. Where it happens often, a program on the way changes octets: look for flow control or text mode.',
  },
  'wrong content': {
    happened: 'A message came that is not what was offered: its size, its id or its packing is wrong.',
    means: 'It was not taken, and it stays there.',
    try: 'Tell who runs the gateway; put the message off when it is offered again.',
  },
  'not kept': {
    happened: 'A message came and could not be kept: the database takes nothing now.',
    means: 'Nothing was confirmed, so it stays at the other end.',
    try: 'Look at the health of this machine (disk full?), then call again.',
  },
  'out of order': {
    happened: 'The other end said something that does not belong there.',
    means: 'The two programs do not understand each other, or octets were lost.',
    try: 'Call again; open the lines of this session to see what was said.',
  },
  'talks without end': {
    happened: 'The other end talks on and on without ever coming to the mail.',
    means: 'It is no mail gateway.',
    try: 'Compare call and SSID, or visit it in Terminal.',
  },
  'they broke off': {
    happened: 'The other end broke off with a message of its own.',
    means: 'Its words are told; what was not confirmed stays.',
    try: 'Read what it said, and call again later.',
  },
  stopped: {
    happened: 'You stopped it.',
    means: 'What was not confirmed stays where it was.',
    try: 'Call again when you like.',
  },
} as const satisfies Record<string, Trouble>;

export type TroubleKind = keyof typeof TROUBLES;

/** What a line that begins with *** means; by its words, which differ from program to program (common practice, no source). */
export function troubleOf(line: string): TroubleKind {
  if (/secure login|password|authenticat/i.test(line)) return 'wrong password';
  if (
    /service|server|cms\b|internet|upstream/i.test(line) &&
    /reach|unavailable|contact|connect|down|offline|fail/i.test(line)
  )
    return 'service out of reach';
  if (
    /not (?:registered|allowed|permitted|authori[sz]ed|known)|unknown (?:call|user|account)|account/i.test(
      line,
    )
  )
    return 'not allowed';
  if (/checksum|crc/i.test(line)) return 'wrong checksum';
  return 'they broke off';
}
