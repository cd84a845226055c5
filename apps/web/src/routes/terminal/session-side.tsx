import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { beginsYapp } from '@mistpeak/core/terminal/yapp';
import { concatOctets, fromHex } from '@mistpeak/core/bits/octets';
import type { SaidView, SessionFileView, SessionView } from '@mistpeak/contract/sessions';
import { command } from '../../api';
import { keepAsking } from '../../live/keep-asking';
import { useAttempt } from '../../live/attempt';
import { toBase64 } from '../../live/session-text';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { saveFile } from '../../pieces/save-file';
import { ProblemNote } from '../../pieces/problem-note';
import { timeMsOf } from './typing';

const OctetsChart = lazy(() => import('./octets-chart').then((module) => ({ default: module.OctetsChart })));

/** How good the link is, its octets in time, files, and the record. */
export function SessionSide({ view, said }: { view: SessionView; said: readonly SaidView[] }) {
  return (
    <aside className="flex min-w-0 flex-col gap-5">
      <Quality view={view} />
      {said.length > 1 && (
        <section aria-label="Octets in time" className="border-t-[1.5px] border-ink pt-2">
          <h3 className="text-[1rem] font-[650]">Octets in time</h3>
          <p className="text-[13px] text-ink2">
            {view.queuedOctets.toLocaleString('en')} mine, {view.heardOctets.toLocaleString('en')} theirs.
          </p>
          <Suspense fallback={<div className="h-40" />}>
            <OctetsChart said={said} />
          </Suspense>
        </section>
      )}
      <Files view={view} said={said} />
      <section aria-label="Record" className="border-t-[1.5px] border-ink pt-2">
        <h3 className="text-[1rem] font-[650]">Record</h3>
        <p className="flex flex-wrap gap-x-4 gap-y-1 text-[14px]">
          {(
            [
              ['text', 'Transcript'],
              ['binary', 'What came, octet by octet'],
              ['adif', 'Contact for a logbook (ADIF)'],
            ] as const
          ).map(([form, name]) => (
            <a
              key={form}
              href={`/api/v1/sessions/${view.id}/export/${form}`}
              className="inline-flex min-h-8 items-center underline decoration-line underline-offset-4 hover:decoration-ink max-md:min-h-11"
            >
              {name}
            </a>
          ))}
        </p>
      </section>
    </aside>
  );
}

function Quality({ view }: { view: SessionView }) {
  const { quality, parameters, modulo } = view;
  const { judgement } = quality;
  const { problem, isBusy, attempt } = useAttempt();
  const pace = judgement.octetsPerSecond;
  const rows: readonly (readonly [string, string])[] = [
    ['Round trip', `${(quality.roundTripMs / 1000).toFixed(1)} s; T1 ${(quality.t1Ms / 1000).toFixed(1)} s`],
    [
      'Frames',
      `${quality.framesSent} sent, ${quality.framesResent} of them again; ${quality.timeouts} timeouts`,
    ],
    ['Asked again', `${quality.rejected} by them, ${quality.rejects} by us`],
    [
      'Window',
      `${modulo === 8 ? parameters.window8 : parameters.window128} frames of ${parameters.packetOctets} octets, numbers to ${modulo - 1}`,
    ],
    ['They could take no more', quality.busyMs === 0 ? 'never' : formatAge(quality.busyMs)],
    [
      'Throughput',
      `${pace === undefined ? 'not known yet' : `${pace.toFixed(0)} octets/s`}; this channel allows ${judgement.bestOctetsPerSecond.toFixed(0)}`,
    ],
  ];
  const { advice } = judgement;
  return (
    <section aria-label="Link quality" className="border-t-[1.5px] border-ink pt-2">
      <h3 className="text-[1rem] font-[650]">Link quality</h3>
      <dl className="grid grid-cols-[7.2rem_minmax(0,1fr)] gap-x-3 gap-y-1 pt-1 text-[13.5px]">
        {rows.map(([term, value]) => (
          <div key={term} className="contents">
            <dt className="text-ink2">{term}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      {advice && view.endedAtMs === undefined && (
        <OperatorOnly>
          <p className="pt-2 text-[13.5px] text-look">{capital(advice.words)}.</p>
          <Button
            disabled={isBusy}
            onClick={() =>
              void attempt(() =>
                command('PUT', `/sessions/${view.id}/parameters`, {
                  ...parameters,
                  packetOctets: advice.choice.packetOctets,
                  window8: advice.choice.window,
                }),
              )
            }
          >
            Set that
          </Button>
        </OperatorOnly>
      )}
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const WAYS = [
  ['plain', 'as it is'],
  ['text', 'as 7-bit text (base64)'],
  ['yapp', 'by YAPP'],
] as const;

function Files({ view, said }: { view: SessionView; said: readonly SaidView[] }) {
  const { problem, isBusy, attempt } = useAttempt();
  const [way, setWay] = useState<(typeof WAYS)[number][0]>('yapp');
  const [chosen, setChosen] = useState<{ name: string; octets: Uint8Array }>();
  const input = useRef<HTMLInputElement>(null);
  const files = useSessionFiles(view.id);
  const isConnected = view.phase === 'connected' || view.phase === 'timer recovery';
  const isUnderway = view.file !== undefined && view.file.ok === undefined;
  const last = said.at(-1);
  const isOffered =
    isConnected && !isUnderway && last?.side === 'theirs' && beginsYapp(fromHex(last.hex) as Uint8Array);
  const choose = async (file: File | undefined): Promise<void> => {
    setChosen(file && { name: file.name, octets: new Uint8Array(await file.arrayBuffer()) });
    if (input.current) input.current.value = '';
  };
  const send = (): Promise<boolean> =>
    attempt(async () => {
      if (!chosen) return;
      await command('POST', `/terminal/sessions/${view.id}/file`, {
        name: chosen.name,
        base64: toBase64(chosen.octets),
        way,
      });
      setChosen(undefined);
    });
  const inside = `/terminal/sessions/${view.id}`;
  return (
    <section aria-label="Files" className="flex flex-col gap-2 border-t-[1.5px] border-ink pt-2 text-[14px]">
      <h3 className="text-[1rem] font-[650]">Files</h3>
      {view.file && (
        <p role="status">
          {view.file.direction === 'out' ? 'Sending' : 'Receiving'} {view.file.name || 'a file'}
          {view.file.direction === 'in' &&
            `: ${view.file.octets}${view.file.of === undefined ? '' : ` of ${view.file.of}`} octets`}
          {view.file.words !== undefined && (
            <span className={view.file.ok ? 'text-proved' : 'text-stop'}> — {view.file.words}</span>
          )}
        </p>
      )}
      <OperatorOnly>
        {isUnderway && (
          <div>
            <Button
              kind="stop"
              disabled={isBusy}
              onClick={() => void attempt(() => command('DELETE', `${inside}/file`))}
            >
              Give the transfer up
            </Button>
          </div>
        )}
        {isOffered && <p className="text-look">{view.peer} begins to send a file by YAPP.</p>}
        {isConnected && !isUnderway && (
          <div className="flex flex-wrap items-center gap-2">
            <label className="inline-flex min-h-9 cursor-pointer items-center rounded-[7px] border-[1.5px] border-edge bg-raise px-3 font-[620] focus-within:outline-[2.5px] focus-within:outline-proved max-md:min-h-11">
              Choose a file to send
              <input
                ref={input}
                type="file"
                className="sr-only"
                onChange={({ target }) => void choose(target.files?.[0])}
              />
            </label>
            <Button
              disabled={isBusy}
              onClick={() => void attempt(() => command('POST', `${inside}/receive`))}
            >
              Receive one by YAPP
            </Button>
          </div>
        )}
        {chosen && (
          <div className="flex flex-wrap items-center gap-2">
            <span>
              {chosen.name}, {chosen.octets.length.toLocaleString('en')} octets: about{' '}
              {formatAge(timeMsOf(view, chosen.octets.length * (way === 'text' ? 1.36 : 1.01)))}
            </span>
            <select
              aria-label="How it is sent"
              value={way}
              onChange={({ target }) => setWay(target.value as typeof way)}
              className="rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 text-ink max-md:min-h-11"
            >
              {WAYS.map(([id, name]) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
            <Button kind="main" disabled={isBusy} onClick={() => void send()}>
              Send it
            </Button>
          </div>
        )}
      </OperatorOnly>
      {said.length > 0 && <Capture said={said} peer={view.peer} />}
      {files.map(({ id, name, octets }) => (
        <a
          key={id}
          href={`/api/v1/sessions/files/${id}`}
          className="inline-flex min-h-8 items-center underline decoration-line underline-offset-4 max-md:min-h-11"
        >
          {name}, {octets.toLocaleString('en')} octets received
        </a>
      ))}
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}

/** What comes between two presses, octet by octet, as a file of this device. */
function Capture({ said, peer }: { said: readonly SaidView[]; peer: string }) {
  const [fromSeq, setFromSeq] = useState<number>();
  const save = (): void => {
    const theirs = said.filter(({ seq, side }) => side === 'theirs' && seq >= (fromSeq ?? 0));
    const octets = concatOctets(...theirs.map(({ hex }) => fromHex(hex) as Uint8Array));
    saveFile(`from-${peer}.bin`, 'application/octet-stream', octets.slice());
    setFromSeq(undefined);
  };
  return (
    <div>
      {fromSeq === undefined ? (
        <Button onClick={() => setFromSeq((said.at(-1)?.seq ?? -1) + 1)}>
          Capture what comes from now on
        </Button>
      ) : (
        <Button kind="main" onClick={save}>
          Save what has come since
        </Button>
      )}
    </div>
  );
}

function useSessionFiles(id: string): readonly SessionFileView[] {
  const fresh = useLive((state) => state.sessionFiles).filter(({ sessionId }) => sessionId === id);
  const [kept, setKept] = useState<readonly SessionFileView[]>([]);
  useEffect(() => {
    return keepAsking(`/sessions/${id}/files`, setKept);
  }, [id]);
  return [...kept, ...fresh.filter((one) => !kept.some((other) => other.id === one.id))];
}
