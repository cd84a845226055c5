import { useState } from 'react';
import type { Drill } from '@mistpeak/core/drills/drill';
import type { DrillsView, EndedPractice } from '@mistpeak/contract/drills';
import { useAsked } from '../../live/asked';
import { useDraft } from '../../live/draft';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Choosing } from './choosing';
import { Ended } from './ended';
import { MadeUp } from './made-up';
import { OnPages } from './on-pages';

const LOOK_EVERY_MS = 5000;

/** Practise on a chain that is faulty, where nothing reaches the air. */
export function DrillsPage() {
  // A drill that was begun goes on after a reload.
  const { values, set, drop } = useDraft<{ drill?: Drill }>('drill', {});
  const practised = useLive((state) => state.practised);
  const nowMs = useNow(LOOK_EVERY_MS);
  // While something goes on elsewhere, what is done of it is looked at again.
  const [isAwaited, setAwaited] = useState(false);
  const goesOn = practised !== null || isAwaited;
  const revision = goesOn ? `${practised?.beganAtMs} ${Math.floor(nowMs / LOOK_EVERY_MS)}` : 'still';
  const asked = useAsked<DrillsView>('/drills', revision);
  const [ended, setEnded] = useState<EndedPractice>();
  const show = (view: DrillsView): void => {
    setAwaited(view.practice.place === 'beside');
    asked.again();
  };
  const view = asked.value;
  const running = practised ? view?.practice.running : undefined;
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <h1>Drills</h1>
      {asked.problem && <ProblemNote problem={asked.problem} />}
      <OperatorOnly>
        {ended ? (
          <Ended drill={ended.drill} spent={ended.spent} leave={() => setEnded(undefined)} />
        ) : running ? (
          <OnPages
            running={running}
            show={show}
            end={(now) => {
              setEnded(now);
              show(now.view);
            }}
          />
        ) : values.drill ? (
          <MadeUp drill={values.drill} set={(next) => set({ drill: next })} leave={drop} kept={asked.again} />
        ) : (
          view && <Choosing view={view} begin={(next) => set({ drill: next })} show={show} />
        )}
      </OperatorOnly>
    </div>
  );
}
