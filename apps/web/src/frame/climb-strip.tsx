import { Link } from 'react-router';
import { useClimb } from '../live/climb';
import { useNow } from '../live/now';
import { CampMark } from '../pieces/camp-mark';
import { describeCamp, describeClimb } from '../pieces/camp-words';

/** The climb in one line, in sight on every page; it leads to the Bench. */
export function ClimbStrip() {
  const climb = useClimb();
  const nowMs = useNow();
  if (!climb) return null;
  return (
    <nav aria-label="The climb">
      <Link
        to="/bench"
        className="flex items-center gap-1.5 overflow-hidden border-b border-line bg-sheet px-7 py-1 text-[12.5px] text-ink2 hover:text-ink max-md:min-h-11 max-md:px-4"
        aria-label={`The climb: ${describeClimb(climb.camps)}. To the Bench`}
      >
        {climb.camps.map((camp, i) => (
          <span
            key={camp.rung}
            className="flex items-center gap-1.5"
            title={`${camp.rung}: ${describeCamp(camp, nowMs)}`}
          >
            {i > 0 && (
              <span
                aria-hidden
                className={`w-5 border-t-2 max-md:w-2 ${camp.state === 'lit' ? 'border-ink' : 'border-dotted border-ink3'}`}
              />
            )}
            <CampMark state={camp.state} size={14} />
          </span>
        ))}
        <span className="ml-1.5 truncate">{describeClimb(climb.camps)}</span>
      </Link>
    </nav>
  );
}
