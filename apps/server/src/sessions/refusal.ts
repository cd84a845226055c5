import { SessionRun, type SessionHost, type SessionSpec } from './session-run.js';

/** Answers one frame by a machine that takes no calls, which is gone then: DM, or nothing. */
export function refuseCall(
  host: Pick<SessionHost, 'clock' | 'link' | 'transmit'>,
  spec: SessionSpec,
  raw: Uint8Array,
): void {
  const nothing = (): void => undefined;
  const refusing = new SessionRun(
    {
      ...host,
      keep: () => Promise.resolve(true),
      changed: nothing,
      connected: nothing,
      ended: nothing,
      data: nothing,
      bothWays: nothing,
      confirmed: nothing,
    },
    spec,
  );
  refusing.heard(raw);
  refusing.drop();
}
