import { X } from 'lucide-react';
import { useState } from 'react';

const KEY = 'first-steps';

const STEPS: readonly [string, string][] = [
  [
    'The chain',
    'radio, cable, TNC, host: a joint is ticked when something proved it, not when it is configured.',
  ],
  [
    'The climb',
    'each camp is lit by evidence, a frame or a time, and pales with age. Press a camp to see what lit it.',
  ],
  [
    'The next step',
    'always one. When nothing answers it lists the causes, likeliest first, each with its test.',
  ],
  [
    'The lock',
    'Mistpeak only receives until you arm the transmitter with your call, at the top of every page.',
  ],
  ['The keys', 'Ctrl K finds every page and action, ? shows the keys.'],
];

/** Whether this is the first visit: until its lines are put away, for good. */
export function useFirstVisit(): { readonly isFirst: boolean; readonly putAway: () => void } {
  const [isFirst, setFirst] = useState(() => localStorage.getItem(KEY) !== 'seen');
  const putAway = (): void => {
    localStorage.setItem(KEY, 'seen');
    setFirst(false);
  };
  return { isFirst, putAway };
}

/** What one sees on the first visit, in five lines. */
export function FirstSteps({ putAway }: { putAway: () => void }) {
  return (
    <section
      aria-label="What you see here"
      className="relative border-l-[3px] border-provedfill bg-raise px-4 py-2.5"
    >
      <h2 className="pb-1">What you see here</h2>
      <dl className="grid gap-x-6 gap-y-1 text-[14px] md:grid-cols-2">
        {STEPS.map(([term, words]) => (
          <div key={term}>
            <dt className="inline font-[640]">{term}: </dt>
            <dd className="inline text-ink2">{words}</dd>
          </div>
        ))}
      </dl>
      <button
        type="button"
        onClick={putAway}
        aria-label="Put this away"
        title="Put this away"
        className="absolute top-1.5 right-1.5 grid size-8 place-items-center rounded text-ink2 hover:text-ink max-md:size-11"
      >
        <X className="size-4" aria-hidden />
      </button>
    </section>
  );
}
