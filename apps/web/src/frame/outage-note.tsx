import { FAILURES, type FailureReason } from '@mistpeak/contract/failures';
import type { HealthView } from '@mistpeak/contract/health';
import { useNow } from '../live/now';
import { useLive } from '../live/store';
import { formatAge, formatDay } from '../pieces/age';

/** Says at once when the server or its database is in trouble, and what becomes of the frames. */
export function OutageNote() {
  const connection = useLive((state) => state.connection);
  const health = useLive((state) => state.health);
  const keptAtMs = useLive((state) => state.keptAtMs);
  if (connection === 'away')
    return (
      <Note title={FAILURES['server-away'].happened}>
        {keptAtMs !== undefined && `What you see was kept in this browser at ${formatDay(keptAtMs)} UTC. `}
        {FAILURES['server-away'].try}
      </Note>
    );
  if (health.database !== 'here') return <StoringFails health={health} />;
  if (health.dropped > 0 || health.refused > 0)
    return (
      <Note title="Not every frame could be kept.">
        <Lost health={health} />
      </Note>
    );
  return null;
}

const REASONS: Record<Exclude<HealthView['database'], 'here'>, FailureReason> = {
  away: 'database-away',
  full: 'disk-full',
  refuses: 'write-fails',
};

function StoringFails({ health }: { health: HealthView }) {
  const nowMs = useNow();
  const { database, sinceMs, detail, waiting } = health;
  const text = FAILURES[REASONS[database === 'here' ? 'away' : database]];
  const since = sinceMs === undefined ? '' : ` For ${formatAge(nowMs - sinceMs)}.`;
  return (
    <Note title={text.happened + since}>
      Frames are still heard and shown: <b className="font-mono">{waiting}</b>{' '}
      {waiting === 1 ? 'entry waits' : 'entries wait'} in memory and are stored when it goes again. {text.try}
      {detail && <span className="font-mono"> {detail}</span>}
      <Lost health={health} />
    </Note>
  );
}

function Lost({ health: { dropped, droppedOf, refused } }: { health: HealthView }) {
  const links = useLive((state) => state.links);
  const names = links.filter(({ id }) => droppedOf.includes(id)).map(({ settings }) => `“${settings.name}”`);
  return (
    <>
      {dropped > 0 && (
        <>
          {' '}
          <b className="font-mono">{dropped}</b> frames of {names.join(', ')} were dropped: it brings more
          than can be stored.
        </>
      )}
      {refused > 0 && (
        <>
          {' '}
          <b className="font-mono">{refused}</b> frames cannot be stored; they are in a file in the data
          folder.
        </>
      )}
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
