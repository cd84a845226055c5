import { Link } from 'react-router';
import { verdictOn, type Verdict } from '@mistpeak/core/diagnosis/verdict';
import type { Rung } from '@mistpeak/core/proof/evidence';
import { nextRung } from '@mistpeak/core/proof/ladder';
import { failureText } from '@mistpeak/contract/failures';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import type { LinkView } from '@mistpeak/contract/link';
import type { Climb } from '../../live/climb';
import { useLive } from '../../live/store';
import { isOpen } from '../../live/main-link';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { ArmDialog } from '../../pieces/transmit-lock';
import { Causes } from './causes';
import { useChainFacts } from './chain-facts';
import { StepElsewhere } from './step-elsewhere';

/** The one next step, its button, and, where something is wrong, the causes in the order of likelihood. */
export function NextStep({ climb }: { climb: Climb }) {
  if (climb.endsElsewhere) return <StepElsewhere climb={climb} />;
  return climb.link ? <StepHere climb={climb} link={climb.link} /> : <NoLinkYet />;
}

function NoLinkYet() {
  return (
    <section aria-label="Next step" className="border-t-[1.5px] border-ink pt-2.5">
      <h2 className="pb-1">Next: make the link</h2>
      <p className="text-ink2">The chain ends in Mistpeak, and there is no link to its TNC yet.</p>
      <div className="pt-2.5">
        <PageLink to="/tnc">Add a link</PageLink>
      </div>
    </section>
  );
}

function StepHere({ climb, link }: { climb: Climb; link: LinkView }) {
  const facts = useChainFacts(link, climb);
  const next = nextRung(climb.camps);
  const isDoubtful = climb.camps.some(({ rung, state }) => rung === 'keyed' && state === 'doubtful');
  const standing = { isOpen: isOpen(link), next: next?.rung, isDoubtful };
  const verdict = verdictOn(standing, facts) ?? notOpen(link);
  const { title, body } = verdict;
  return (
    <section aria-label="Next step" className="border-t-[1.5px] border-ink pt-2.5">
      <h2 className="pb-1">{title}</h2>
      <p className="text-ink2">{body}</p>
      <OperatorOnly>
        <Actions rung={next?.rung} climb={climb} link={link} isDoubtful={isDoubtful} />
      </OperatorOnly>
      <Causes key={link.id} link={link} verdict={verdict} facts={facts} />
    </section>
  );
}

function notOpen(link: LinkView): Verdict {
  const failure = link.phase === 'failed' ? failureText(link.failure ?? 'other') : undefined;
  return {
    title: 'Next: open the link',
    body: failure
      ? `${failure.happened} ${failure.means} ${failure.try}`
      : 'The chain begins with a wire to the TNC.',
    causes: [],
  };
}

function Actions({
  rung,
  climb,
  link,
  isDoubtful,
}: {
  rung: Rung | undefined;
  climb: Climb;
  link: LinkView;
  isDoubtful: boolean;
}) {
  const lock = useLive((state) => state.locks.get(link.id));
  const beacon = useLive((state) => state.beacon);
  const { problem, attempt } = useAttempt();
  const act = (method: 'POST', path: string, body?: unknown): void => {
    void attempt(() => command(method, path, body));
  };
  const isSending =
    isDoubtful || rung === undefined || ['handed to the TNC', 'keyed', 'repeated'].includes(rung);
  const canSend = isSending && climb.chain.purpose !== 'receive' && isOpen(link);
  const isArmedForIt = lock?.armed === true && lock.call === beacon?.source;
  return (
    <div className="flex flex-wrap items-center gap-2 pt-2.5">
      {rung === 'port open' && link.phase === 'closed' && (
        <Button kind="main" onClick={() => act('POST', `/links/${link.id}/open`)}>
          Open the link
        </Button>
      )}
      {(rung === 'port open' || rung === 'TNC talks' || rung === 'packet decoded') && (
        <PageLink to="/tnc">Look at the TNC page</PageLink>
      )}
      {rung === 'message acknowledged' && <PageLink to="/messages">Write a message</PageLink>}
      {(rung === 'far station answered' || rung === 'data both ways') && (
        <PageLink to="/terminal">Go to the terminal</PageLink>
      )}
      {rung !== undefined && MAIL_RUNGS.includes(rung) && <PageLink to="/mail">Go to Mail</PageLink>}
      {canSend && !beacon && <PageLink to="/beacon">Set up the beacon</PageLink>}
      {canSend && beacon && !isArmedForIt && (
        <ArmDialog link={link} label="Arm the transmitter …" call={beacon.source} />
      )}
      {canSend && beacon && isArmedForIt && (
        <Button
          kind="main"
          onClick={() => act('POST', '/beacon/transmissions', { id: crypto.randomUUID(), linkId: link.id })}
        >
          Send one beacon
        </Button>
      )}
      {isDoubtful && (
        <Button onClick={() => act('POST', `/links/${link.id}/evidence`, { rung: 'keyed' })}>
          I saw the radio transmit
        </Button>
      )}
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

const MAIL_RUNGS: readonly Rung[] = ['logged in to mail', 'mail sent', 'mail received', 'self-test answered'];

function PageLink({ to, children }: { to: string; children: string }) {
  return (
    <Link
      to={to}
      className="inline-flex min-h-9 items-center rounded-[7px] border-[1.5px] border-edge bg-raise px-3 py-1 text-[14.5px] font-[620] max-md:min-h-11"
    >
      {children}
    </Link>
  );
}
