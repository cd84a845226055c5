import type { UnitSystem } from '@mistpeak/core/units/units';
import { formatClock } from '../../pieces/age';
import { TONE_TEXT } from '../../pieces/link-words';
import { ToneMark } from '../../pieces/tone-mark';
import { useWidth } from '../../pieces/width';
import { Arrivals } from './arrivals';
import { FARE_NAMES, FARE_TONES, fareWords } from './fare-words';
import { nameOf, type Person } from './people';
import { clockMarks, scaleTimes } from './time-scale';

const GRID =
  'grid grid-cols-[minmax(190px,1.2fr)_minmax(190px,1.3fr)_minmax(0,1.6fr)] items-center gap-x-4 max-md:block';

/** One row each, the greatest need first; beside it the hour: what came, what did not, what is expected. */
export function WatchRows({
  people,
  nowMs,
  units,
  selected,
  select,
}: {
  people: readonly Person[];
  nowMs: number;
  units: UnitSystem;
  selected: string | undefined;
  select: (call: string) => void;
}) {
  const [ref, width] = useWidth();
  return (
    <section aria-label="Looked after" className="flex flex-col">
      <div className={`${GRID} border-b border-ink px-3 text-[12.5px] text-ink3 max-md:hidden`}>
        <span>Who</span>
        <span>How they fare</span>
        <div ref={ref} className="relative h-5">
          {clockMarks(nowMs).map((atMs) => (
            <span
              key={atMs}
              className="absolute -translate-x-1/2 font-mono text-[11.5px]"
              style={{ left: scaleTimes(nowMs, width).x(atMs) }}
            >
              {formatClock(atMs, 'local').slice(0, 5)}
            </span>
          ))}
        </div>
      </div>
      <ol>
        {people.map((person) => (
          <WatchRow
            key={person.watched.call}
            person={person}
            nowMs={nowMs}
            units={units}
            width={width}
            isSelected={person.watched.call === selected}
            select={select}
          />
        ))}
      </ol>
    </section>
  );
}

function WatchRow({
  person,
  nowMs,
  units,
  width,
  isSelected,
  select,
}: {
  person: Person;
  nowMs: number;
  units: UnitSystem;
  width: number;
  isSelected: boolean;
  select: (call: string) => void;
}) {
  const { watched, standing, alarms } = person;
  const tone = FARE_TONES[standing.fare];
  const also = standing.needs.slice(1).map((need) => FARE_NAMES[need]);
  const answered = alarms.find(({ acknowledged }) => acknowledged)?.acknowledged;
  return (
    <li
      className={`border-b border-line ${isSelected ? 'bg-raise shadow-[inset_3px_0_var(--provedfill)]' : ''}`}
    >
      <div className={`${GRID} px-3 py-1`}>
        <button
          type="button"
          onClick={() => select(watched.call)}
          aria-pressed={isSelected}
          className="min-h-11 text-left"
        >
          <b className="block text-[1.1rem] leading-tight font-[650]">{nameOf(watched)}</b>
          <span className="text-[13px] text-ink2">
            <span className="font-mono">{watched.call}</span>
            {watched.group === '' ? '' : ` · ${watched.group}`}
          </span>
        </button>
        <div className="min-w-0">
          <p className={`flex items-center gap-1.5 text-[1.05rem] font-[640] ${TONE_TEXT[tone]}`}>
            <ToneMark tone={tone} />
            {FARE_NAMES[standing.fare]}
            {also.length > 0 && <span className="text-[13px] font-[450]">, {also.join(', ')}</span>}
          </p>
          <p className="text-[13.5px] leading-snug text-ink2">
            {fareWords(standing.fare, person, { nowMs, units })}
            {answered && (
              <span className="block">
                {formatClock(answered.atMs, 'local').slice(0, 5)} acknowledged
                {answered.note === '' ? '' : `: ${answered.note}`}
              </span>
            )}
          </p>
        </div>
        <div className="max-md:hidden">
          <Arrivals person={person} nowMs={nowMs} width={width} />
        </div>
      </div>
    </li>
  );
}
