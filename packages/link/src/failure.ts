/** Why a wire could not be opened or broke. The words for the operator are kept with the page. */
export type LinkFailure =
  | 'refused'
  | 'no-such-host'
  | 'unreachable'
  | 'no-such-device'
  | 'permission'
  | 'busy'
  | 'unplugged'
  | 'closed-by-peer'
  | 'timed-out'
  | 'not-a-serial-port'
  | 'page-away'
  | 'no-such-sound'
  | 'no-sound'
  | 'sound-busy'
  | 'sound-rate'
  | 'sound-gone'
  | 'sound-stuck'
  | 'no-alsa'
  | 'key-failed'
  | 'other';

/** POSIX error names as the runtime reports them. */
const BY_CODE: Record<string, LinkFailure> = {
  ECONNREFUSED: 'refused',
  ENOTFOUND: 'no-such-host',
  EAI_AGAIN: 'no-such-host',
  EHOSTUNREACH: 'unreachable',
  ENETUNREACH: 'unreachable',
  ENOENT: 'no-such-device',
  ENODEV: 'no-such-device',
  ENXIO: 'no-such-device',
  EACCES: 'permission',
  EPERM: 'permission',
  EBUSY: 'busy',
  EAGAIN: 'busy',
  EIO: 'unplugged',
  EBADF: 'unplugged',
  ECONNRESET: 'closed-by-peer',
  EPIPE: 'closed-by-peer',
  ETIMEDOUT: 'timed-out',
  ENOTTY: 'not-a-serial-port',
  EINVAL: 'not-a-serial-port',
};

/** Words that a serial driver gives instead of a code. */
const BY_WORDS: readonly [RegExp, LinkFailure][] = [
  [/no such file|cannot find/i, 'no-such-device'],
  [/permission|access denied/i, 'permission'],
  [/cannot lock|busy|temporarily unavailable/i, 'busy'],
  [/disconnected|input\/output/i, 'unplugged'],
  [/inappropriate ioctl|not a (?:tty|serial)|invalid argument/i, 'not-a-serial-port'],
];

export class LinkFailed extends Error {
  constructor(
    readonly failure: LinkFailure,
    readonly detail = '',
  ) {
    super(detail === '' ? failure : `${failure}: ${detail}`);
    this.name = 'LinkFailed';
  }
}

export function failureOf(error: unknown): LinkFailed {
  if (error instanceof LinkFailed) return error;
  const { code, message } = error as { code?: unknown; message?: unknown };
  const words = typeof message === 'string' ? message : String(error);
  const known = typeof code === 'string' ? BY_CODE[code] : undefined;
  return new LinkFailed(known ?? BY_WORDS.find(([form]) => form.test(words))?.[1] ?? 'other', words);
}
