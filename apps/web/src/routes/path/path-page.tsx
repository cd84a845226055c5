import { lazy, Suspense } from 'react';
import { useParams } from 'react-router';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useLive } from '../../live/store';
import { SectionLinks } from '../../pieces/section-links';
import { CompareView } from './compare-view';
import { NetworkView } from './network-view';
import { PacketView } from './packet-view';

// The map is large, and nobody needs it to compare paths.
const ReachView = lazy(() => import('./reach-view'));

const SECTIONS = {
  paths: 'Paths side by side',
  reach: 'Reach',
  network: 'Who repeats whom',
  packet: 'One packet of the log',
} as const;

/** What happens to my packet here with this path? */
export function PathPage() {
  const { section = 'paths' } = useParams();
  const operator = useLive((state) => state.operator) as OperatorView;
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1>Path</h1>
        <p className="text-ink2">What a packet will do here, before it is sent.</p>
      </header>
      <SectionLinks label="Parts" sections={SECTIONS} current={section} addressOf={(id) => `/path/${id}`} />
      <Section section={section} operator={operator} />
    </div>
  );
}

function Section({ section, operator }: { section: string; operator: OperatorView }) {
  switch (section) {
    case 'reach':
      return (
        <Suspense fallback={<p className="text-ink2">Unfolding the map …</p>}>
          <ReachView operator={operator} />
        </Suspense>
      );
    case 'network':
      return <NetworkView />;
    case 'packet':
      return <PacketView />;
    default:
      return <CompareView operator={operator} />;
  }
}
