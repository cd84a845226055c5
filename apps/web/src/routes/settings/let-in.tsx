import { useCallback, useEffect, useState } from 'react';
import type { DeviceView } from '@mistpeak/contract/access';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';

const ASK_EVERY_MS = 10_000;
const BY: Record<DeviceView['entrance'], string> = {
  password: 'by password',
  code: 'by pairing code',
  'this machine': 'at this machine',
};

/** Who has been let in; each is ended by a press, and all that it has open with it. */
export function LetIn() {
  const [devices, setDevices] = useState<readonly DeviceView[]>([]);
  const { problem, attempt } = useAttempt();
  const nowMs = useNow();
  const ask = useCallback(() => {
    command<DeviceView[]>('GET', '/access/devices').then(setDevices, () => undefined);
  }, []);
  useEffect(() => {
    ask();
    const timer = setInterval(ask, ASK_EVERY_MS);
    return () => clearInterval(timer);
  }, [ask]);
  const end = (id: string): void => {
    void attempt(() => command('DELETE', `/access/devices/${id}`).then(ask));
  };
  if (devices.length === 0) return null;
  return (
    <div>
      <h3 className="text-[1.05rem] font-[650]">Let in now</h3>
      <ul aria-label="Let in now" className="flex flex-col text-[14px]">
        {devices.map(({ id, name, role, entrance, address, letInAtMs, seenAtMs, isThis }) => (
          <li key={id} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-1.5">
            <span className="min-w-0 flex-1">
              <b className="font-[620]">{isThis ? 'This browser' : name || 'Without a name'}</b>{' '}
              <span className="text-ink2">
                {role}, {BY[entrance]}
                {entrance === 'this machine' ? '' : ` from ${address}`}, {formatAge(nowMs - letInAtMs)} ago;
                last seen {formatAge(nowMs - seenAtMs)} ago
              </span>
            </span>
            {!isThis && (
              <Button kind="stop" onClick={() => end(id)}>
                End it
              </Button>
            )}
          </li>
        ))}
      </ul>
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}
