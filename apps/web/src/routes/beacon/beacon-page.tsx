import { lazy, Suspense } from 'react';
import { useParams } from 'react-router';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useLive } from '../../live/store';
import { SectionLinks } from '../../pieces/section-links';
import { ComposeView } from './compose-view';
import { NextOut } from './next-out';
import { WaysView } from './ways-view';

// Map and charts are large, and nobody needs them to send one beacon.
const PlansView = lazy(() => import('./plans-view'));
const ProofView = lazy(() => import('./proof-view'));

const SECTIONS = {
  compose: 'What goes out',
  plans: 'Plans on a track',
  ways: 'What leaves by itself',
  proof: 'What became of it',
} as const;

/** What exactly goes out, how often, what does it cost? */
export function BeaconPage() {
  const { section = 'compose' } = useParams();
  const operator = useLive((state) => state.operator) as OperatorView;
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="mr-auto">Beacon</h1>
        <NextOut />
      </header>
      <SectionLinks label="Parts" sections={SECTIONS} current={section} addressOf={(id) => `/beacon/${id}`} />
      <Suspense fallback={<p className="text-ink2">Unfolding the map …</p>}>
        {section === 'plans' ? (
          <PlansView operator={operator} />
        ) : section === 'ways' ? (
          <WaysView operator={operator} />
        ) : section === 'proof' ? (
          <ProofView operator={operator} />
        ) : (
          <ComposeView operator={operator} />
        )}
      </Suspense>
    </div>
  );
}
