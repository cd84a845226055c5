import { Maximize } from 'lucide-react';
import { useRef } from 'react';
import { useParams } from 'react-router';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { SectionLinks } from '../../pieces/section-links';
import { DeskView } from './desk-view';
import { ListView } from './list-view';
import { LogView } from './log-view';

const SECTIONS = { desk: 'The desk', list: 'The list', log: 'Log' } as const;

/** Who is fine, who is overdue, off the way, standing still, calling? */
export function WatchPage() {
  const { section = 'desk' } = useParams();
  const operator = useLive((state) => state.operator) as OperatorView;
  const watch = useLive((state) => state.watch);
  const page = useRef<HTMLDivElement>(null);
  if (!watch) return null;
  const isDesk = section !== 'list' && section !== 'log';
  return (
    <div ref={page} className="flex flex-col overflow-y-auto bg-paper pb-4">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1 px-7 pt-5 pb-2 max-md:px-4">
        <h1>{watch.settings.name || 'Watch'}</h1>
        {isDesk && (
          <Button className="ml-auto print:hidden" onClick={() => void page.current?.requestFullscreen()}>
            <Maximize className="size-4" aria-hidden /> Wall screen
          </Button>
        )}
      </header>
      <div className="px-7 pb-3 max-md:px-4 print:hidden">
        <SectionLinks
          label="Parts"
          sections={SECTIONS}
          current={section}
          addressOf={(id) => `/watch/${id}`}
        />
      </div>
      {isDesk ? (
        <DeskView watch={watch} operator={operator} />
      ) : (
        <div className="px-7 max-md:px-4">
          {section === 'list' ? (
            <ListView watch={watch} />
          ) : (
            <LogView name={watch.settings.name} begunMs={watch.begunMs} />
          )}
        </div>
      )}
    </div>
  );
}
