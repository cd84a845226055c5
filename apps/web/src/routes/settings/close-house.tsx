import { useState } from 'react';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { askAccess } from '../../live/access';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';

/** All that lets others in is taken away at once; asked twice, since every device must be paired anew after it. */
export function CloseHouse() {
  const [isAsked, setAsked] = useState(false);
  const { problem, attempt } = useAttempt();
  const close = (): void => {
    void attempt(() => command('POST', '/access/close-house').then(askAccess));
  };
  return (
    <div className="flex flex-col gap-2 text-[14px]">
      {isAsked ? (
        <>
          <p className="text-ink2">
            Every device is out at once, codes that wait let nobody in, the way from the network is shut, and
            the authority is forgotten: at the next start with --lan each device must trust a new one and be
            paired again.
          </p>
          <div className="flex gap-2">
            <Button kind="stop" onClick={close}>
              Close the house
            </Button>
            <Button onClick={() => setAsked(false)}>Leave it open</Button>
          </div>
        </>
      ) : (
        <Button kind="stop" className="w-fit" onClick={() => setAsked(true)}>
          Close the house …
        </Button>
      )}
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}
