import { Pause, Play, Rewind } from 'lucide-react';
import { changeReplay, endReplay, SPEEDS, useReplay } from '../live/replay';
import { formatClock, formatDay } from '../pieces/age';
import { Button } from '../pieces/button';

/** On every page while a past hour passes again: which, where it is, and how to leave it. */
export function ReplayNote() {
  const replay = useReplay((state) => state.replay);
  if (!replay) return null;
  const { fromMs, untilMs, atMs, speed, isPaused } = replay;
  const isOver = atMs >= untilMs;
  return (
    <section
      aria-label="Replay"
      className="flex flex-wrap items-center gap-x-4 gap-y-1.5 border-b-2 border-look bg-raise px-7 py-2 text-[14px] max-md:px-4"
    >
      <p className="flex items-center gap-2 font-[640] text-look">
        <Rewind className="size-4" aria-hidden />
        Replay: {formatDay(fromMs)} UTC. Nothing is sent from here.
      </p>
      <b className="font-mono text-[1.05rem]">{formatClock(atMs, 'utc')}</b>
      {/* No bar of the browser's own: it would be green by night. */}
      <div
        role="progressbar"
        aria-label="How far the hour has passed"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round((100 * (atMs - fromMs)) / (untilMs - fromMs))}
        className="h-2.5 w-40 rounded-sm border border-edge"
      >
        <div
          className="h-full bg-look"
          style={{ width: `${(100 * (atMs - fromMs)) / (untilMs - fromMs)}%` }}
        />
      </div>
      <Button disabled={isOver} onClick={() => changeReplay({ isPaused: !isPaused })}>
        {isPaused ? <Play className="size-4" aria-hidden /> : <Pause className="size-4" aria-hidden />}
        {isOver ? 'It is over' : isPaused ? 'Go on' : 'Pause'}
      </Button>
      <label>
        Speed{' '}
        <select
          value={speed}
          onChange={({ target }) => changeReplay({ speed: Number(target.value) })}
          className="ml-1 rounded-md border border-edge bg-raise px-2 py-0.5 max-md:min-h-11"
        >
          {SPEEDS.map((times) => (
            <option key={times} value={times}>
              {times} ×
            </option>
          ))}
        </select>
      </label>
      <Button kind="main" onClick={endReplay}>
        Back to now
      </Button>
    </section>
  );
}
