/** Of sessions so many are shown, and of all else: frames of connections come by the hundred and must push nothing else out. */
export const SHOWN_OF_EACH = 50;
export const SESSION_PURPOSE = 'session';

/** What was sent, newest first, cut to so many of the sessions and so many of all else. */
export function newestOfEach<Sent extends { readonly purpose: string }>(
  all: readonly Sent[],
  atMs: (one: Sent) => number,
): Sent[] {
  const counts = { session: 0, other: 0 };
  return [...all]
    .sort((a, b) => atMs(b) - atMs(a))
    .filter(({ purpose }) => counts[purpose === SESSION_PURPOSE ? 'session' : 'other']++ < SHOWN_OF_EACH);
}
