import { Link } from 'react-router';
import { nextRung } from '@mistpeak/core/proof/ladder';
import type { Rung } from '@mistpeak/core/proof/evidence';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import type { Climb } from '../../live/climb';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

/** How one sees it with another app, or on the radio itself. */
const SEEN: Readonly<Record<Rung, string>> = {
  'port open': 'The app says that it is connected, and to what.',
  'TNC talks': 'Something comes from the TNC: a lamp, a counter, a first line.',
  'level in the window': 'The app’s meter sits inside its window when a packet comes.',
  'packet decoded': 'The app shows a call that you did not type.',
  'handed to the TNC': 'The app says that it sent.',
  keyed: 'The radio’s transmit lamp lit.',
  repeated: 'Your own packet came back with a digipeater marked as used.',
  'at a gateway': 'A page of the internet service shows it with a gateway’s call and qAR.',
  'message acknowledged': 'The message is marked as acknowledged by the station that you wrote to.',
  'far station answered': 'The far station said connected.',
  'data both ways': 'You read a line of theirs, and they answered one of yours.',
  'logged in to mail': 'The gateway took your account.',
  'mail sent': 'The gateway took your message.',
  'mail received': 'A message came in.',
  'self-test answered': 'The answer of the test address came.',
};

/** The next step of a chain that ends in another app, or in none: what to see there, and to tick here. */
export function StepElsewhere({ climb: { camps, chain } }: { climb: Climb }) {
  const { problem, attempt } = useAttempt();
  const next = nextRung(camps);
  const tick = (rung: Rung): void => {
    void attempt(() => command('POST', `/chains/${chain.id}/evidence`, { rung }));
  };
  return (
    <section aria-label="Next step" className="border-t-[1.5px] border-ink pt-2.5">
      <h2 className="pb-1">{next ? `Next: ${next.rung}` : 'All of it is proved'}</h2>
      <p className="text-ink2">
        {next
          ? `This chain does not end in Mistpeak, so you are its eyes. ${SEEN[next.rung]}`
          : 'Tick again when the evidence grows old, and write the trial down on the setup sheet.'}
      </p>
      <div className="flex flex-wrap gap-2 pt-2.5">
        {next && (
          <OperatorOnly>
            <Button kind="main" onClick={() => tick(next.rung)}>
              I saw “{next.rung}”
            </Button>
          </OperatorOnly>
        )}
        <Link
          to={`/chain/${chain.id}`}
          className="inline-flex min-h-9 items-center rounded-[7px] border-[1.5px] border-edge bg-raise px-3 py-1 text-[14.5px] font-[620] max-md:min-h-11"
        >
          Open the setup sheet
        </Link>
      </div>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}
