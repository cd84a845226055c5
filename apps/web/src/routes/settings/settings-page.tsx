import { useState } from 'react';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useIsWatcher } from '../../live/access';
import { useLive } from '../../live/store';
import { LightChoice } from '../../pieces/light-choice';
import { OperatorForm } from '../../forms/operator-form';
import { OperatorOnly } from '../../pieces/operator-only';
import { Cautions } from './cautions';
import { MapFiles } from './map-files';
import { OtherDevices } from './other-devices';
import { WhatIsKept } from './what-is-kept';
import { WhoMayEnter } from './who-may-enter';

/** Who I am, how things are shown, who may enter. */
export function SettingsPage() {
  const operator = useLive((state) => state.operator) as OperatorView;
  const isWatcher = useIsWatcher();
  const [isSaved, setSaved] = useState(false);
  return (
    <div className="grid max-w-[72rem] gap-x-10 gap-y-7 px-7 py-5 max-md:px-4 lg:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
      <div>
        <h1>Settings</h1>
        <p className="pt-0.5 pb-4 text-[13.5px] text-ink2">
          The licence holder, the place, and how distances, coordinates and colours are shown.
        </p>
        <OperatorOnly>
          <OperatorForm operator={operator} label="Save" saved={() => setSaved(true)} />
        </OperatorOnly>
        <p role="status" className="pt-2 text-[13.5px] text-proved">
          {isSaved && 'Saved.'}
        </p>
      </div>
      <div className="flex min-w-0 flex-col gap-6">
        <section aria-label="Light" className="border-t-[1.5px] border-ink pt-2.5">
          <h2 className="pb-1">Light</h2>
          <LightChoice />
        </section>
        <WhoMayEnter isWatcher={isWatcher} />
        {!isWatcher && <OtherDevices />}
        <MapFiles />
        <WhatIsKept />
        <Cautions />
      </div>
    </div>
  );
}
