import type { Camp } from '@mistpeak/core/proof/ladder';

/** A camp by shape and colour: a tick where it stands, an exclamation mark where something speaks against it. */
export function CampMark({ state, size = 20 }: { state: Camp['state']; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" aria-hidden className="shrink-0">
      {state === 'lit' && (
        <>
          <circle cx="10" cy="10" r="9" fill="var(--provedfill)" stroke="var(--ink)" strokeWidth="2" />
          <path d="m6 10 3 3.5 5.5-7" fill="none" stroke="var(--onproved)" strokeWidth="2.2" />
        </>
      )}
      {state === 'faded' && (
        <>
          <circle
            cx="10"
            cy="10"
            r="8.5"
            fill="var(--sheet)"
            stroke="var(--proved)"
            strokeWidth="2"
            strokeDasharray="3 2.5"
          />
          <path d="m6 10 3 3.5 5.5-7" fill="none" stroke="var(--proved)" strokeWidth="2" />
        </>
      )}
      {state === 'doubtful' && (
        <>
          <circle cx="10" cy="10" r="8.5" fill="var(--raise)" stroke="var(--look)" strokeWidth="2.5" />
          <path d="M10 5.5v5.5M10 13v1.5" stroke="var(--look)" strokeWidth="2.2" />
        </>
      )}
      {state === 'dark' && (
        <circle cx="10" cy="10" r="6.5" fill="var(--sheet)" stroke="var(--ink3)" strokeWidth="1.5" />
      )}
    </svg>
  );
}
