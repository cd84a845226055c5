import { TriangleAlert } from 'lucide-react';
import type { FailureText } from '@mistpeak/contract/failures';

/** What happened, what it means on the bench, what to try. */
export function ProblemNote({ problem, detail }: { problem: FailureText; detail?: string | undefined }) {
  return (
    <div role="alert" className="flex gap-2.5 border-l-[3px] border-stop bg-raise px-3 py-2 text-[14px]">
      <TriangleAlert aria-hidden className="mt-0.5 size-4 shrink-0 text-stop" />
      <div>
        <p className="font-[640]">{problem.happened}</p>
        <p className="text-ink2">{problem.means}</p>
        <p className="text-ink2">
          <span className="font-[620] text-ink">Try: </span>
          {problem.try}
        </p>
        {detail && <p className="mt-1 font-mono text-[12.5px] text-ink3">{detail}</p>}
      </div>
    </div>
  );
}
