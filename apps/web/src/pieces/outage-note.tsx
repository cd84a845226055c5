import { FAILURES } from '@mistpeak/contract/failures';
import { useNow } from '../live/now';
import { useLive } from '../live/store';
import { formatAge } from './age';

/** Says at once when the server or its database is away, and what becomes of the frames. */
export function OutageNote() {
  const connection = useLive((state) => state.connection);
  const health = useLive((state) => state.health);
  const nowMs = useNow();
  if (connection === 'away')
    return <Note title={FAILURES['server-away'].happened}>{FAILURES['server-away'].try}</Note>;
  if (health.database === 'away') {
    const since = health.awaySinceMs === undefined ? '' : ` for ${formatAge(nowMs - health.awaySinceMs)}`;
    return (
      <Note title={`The database has not answered${since}.`}>
        Frames are still heard and shown: <b className="font-mono">{health.waiting}</b> wait in memory and are
        stored when it returns.
        {health.dropped > 0 && <Dropped count={health.dropped} />}
      </Note>
    );
  }
  if (health.dropped > 0)
    return (
      <Note title="Not every frame could be kept.">
        <Dropped count={health.dropped} />
      </Note>
    );
  return null;
}

function Dropped({ count }: { count: number }) {
  return (
    <>
      {' '}
      <b className="font-mono">{count}</b> frames were dropped because the room in memory was full.
    </>
  );
}

function Note({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <div role="alert" className="border-b-2 border-look bg-raise px-7 py-2 text-[14px] max-md:px-4">
      <b className="text-look">{title}</b> {children}
    </div>
  );
}
