import { Link, useLocation } from 'react-router';
import { useNow } from '../live/now';
import { useLive } from '../live/store';

/** What is practised in this world, on every page: nothing here is as it seems. */
export function PracticeNote() {
  const practised = useLive((state) => state.practised);
  const { pathname } = useLocation();
  const nowMs = useNow(10_000);
  // There it stands larger.
  if (!practised || pathname === '/drills') return null;
  const minutes = Math.max(0, Math.floor((nowMs - practised.beganAtMs) / 60_000));
  return (
    <section
      aria-label="Practice"
      className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line border-l-[6px] border-l-look bg-sheet px-6 py-2 text-[14.5px] max-md:px-3"
    >
      <p className="min-w-0 flex-1 max-md:basis-full">
        <b className="font-[640] text-look">
          {practised.isDrill ? 'Drill' : 'Exercise'}, {minutes} min.
        </b>{' '}
        {practised.isDrill
          ? `“${practised.words.charAt(0).toUpperCase()}${practised.words.slice(1)}.” Something in this world is faulty.`
          : practised.words}
      </p>
      <Link to="/drills" className="shrink-0 font-[620] underline">
        {practised.isDrill ? 'Name the cause' : 'What is done'}
      </Link>
    </section>
  );
}
