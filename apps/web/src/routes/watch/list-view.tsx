import { useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import {
  formatWatchList,
  readLegs,
  readWatchList,
  USUAL_EVERY_MIN,
  USUAL_FINISH_RADIUS_M,
  USUAL_OFF_M,
  type WatchLine,
} from '@mistpeak/core/watch/watch-list';
import type { WatchSettings, WatchView } from '@mistpeak/contract/watch';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useNow } from '../../live/now';
import { Button } from '../../pieces/button';
import { differencesOf, ElsewhereNote } from '../../pieces/elsewhere-note';
import { TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { saveFile } from '../../pieces/save-file';
import { Table } from '../../pieces/table';
import { LineForm } from './line-form';
import { ShareNote } from './share-note';
import { FileButton } from '../../pieces/file-button';

type Values = Pick<WatchSettings, 'name' | 'watched' | 'legs'>;

const EMPTY: WatchLine = {
  call: '',
  label: '',
  group: '',
  contact: '',
  everyMin: USUAL_EVERY_MIN,
  leg: '',
  offM: USUAL_OFF_M,
  finish: '',
  finishRadiusM: USUAL_FINISH_RADIUS_M,
};

const LABELS = { name: 'Name', watched: 'On the list', legs: 'Ways and areas' } as const;
const shortly = ({ name, watched, legs }: Values): Record<keyof Values, string> => ({
  name,
  watched: watched.map(({ call }) => call).join(', '),
  legs: legs.map((leg) => leg.name).join(', '),
});

/** Who is looked after, by which ways: typed, or from files. Nothing holds before it is saved. */
export function ListView({ watch }: { watch: WatchView }) {
  const { version, ...saved } = watch.settings;
  const draft = useDraft<Values>('watch list', saved);
  const { values, set } = draft;
  const [open, setOpen] = useState<number>();
  const { problem, isBusy, attempt } = useAttempt();
  const isChanged = JSON.stringify(values) !== JSON.stringify(saved);
  const put = (watched: readonly WatchLine[]): void => set({ ...values, watched: [...watched] });
  const save = (): void =>
    void attempt(() =>
      command('PUT', '/watch/settings', { ...values, ...(version === 0 ? {} : { version }) }),
    ).then((isSaved) => isSaved && draft.drop());
  return (
    <OperatorOnly>
      <section aria-label="The list" className="flex flex-col gap-3">
        {draft.elsewhere && (
          <ElsewhereNote
            differences={differencesOf(shortly(values), shortly(draft.elsewhere), LABELS)}
            keepMine={draft.keepMine}
            takeOther={draft.drop}
          />
        )}
        <div className="max-w-md">
          <TextField
            label="Name of the event"
            value={values.name}
            error={problem?.fields?.name}
            onChange={({ target }) => set({ ...values, name: target.value })}
          />
        </div>
        {values.watched.length === 0 ? (
          <p className="text-[14px] text-ink2">
            Nobody yet. Take a CSV file whose first line names the columns (call, label, group, contact,
            every_min, still_min, leg, off_m, finish, finish_radius_m, due), or add them one by one.
          </p>
        ) : (
          <Lines lines={values.watched} open={setOpen} put={put} />
        )}
        {problem?.fields?.watched && <p className="text-[14px] text-stop">{problem.fields.watched}</p>}
        {open !== undefined && (
          <LineForm
            key={open}
            line={values.watched[open] ?? EMPTY}
            legs={values.legs.map(({ name }) => name)}
            take={(line) => {
              put(
                open < values.watched.length
                  ? values.watched.map((one, i) => (i === open ? line : one))
                  : [...values.watched, line],
              );
              setOpen(undefined);
            }}
            close={() => setOpen(undefined)}
          />
        )}
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => setOpen(values.watched.length)}>Add one …</Button>
          <ListFile put={put} />
          <Button
            disabled={values.watched.length === 0}
            onClick={() => saveFile('watch.csv', 'text/csv', formatWatchList(values.watched))}
          >
            Save as CSV
          </Button>
        </div>
        <Legs values={values} set={set} />
        {problem && !problem.fields && <ProblemNote problem={problem} />}
        {problem?.fields && !problem.fields.watched && !problem.fields.name && (
          <p className="text-[14px] text-stop">{Object.values(problem.fields).join('; ')}</p>
        )}
        <div className="flex flex-wrap items-center gap-2">
          <Button kind="main" disabled={isBusy || !isChanged || draft.elsewhere !== undefined} onClick={save}>
            {isChanged ? 'Save the list' : 'Saved'}
          </Button>
          {isChanged && <Button onClick={() => draft.drop()}>Back to what is saved</Button>}
          <Button
            disabled={isBusy || isChanged || values.watched.length === 0}
            onClick={() => void attempt(() => command('POST', '/watch/begin'))}
          >
            Begin the watch anew
          </Button>
          <span className="text-[13px] text-ink3">Of what was heard, the last hour counts then.</span>
        </div>
      </section>
      <ShareNote />
    </OperatorOnly>
  );
}

function Lines({
  lines,
  open,
  put,
}: {
  lines: readonly WatchLine[];
  open: (index: number) => void;
  put: (lines: readonly WatchLine[]) => void;
}) {
  return (
    <Table
      stacks
      columns={[
        'Call',
        'Name',
        'Group',
        'Reached by',
        'Every',
        'Leg',
        'Finish',
        { head: 'Change', isHidden: true },
      ]}
      className="w-full text-[14px]"
    >
      {lines.map((line, i) => (
        <tr key={line.call} className="border-t border-line align-baseline">
          <th scope="row" className="py-1 pr-3 font-mono font-[620]">
            {line.call}
          </th>
          <td className="pr-3">{line.label}</td>
          <td className="pr-3">{line.group}</td>
          <td className="pr-3">{line.contact}</td>
          <td className="pr-3 font-mono text-[13px]">{line.everyMin} min</td>
          <td className="pr-3">{line.leg === '' ? '' : `${line.leg}, ${line.offM} m`}</td>
          <td className="pr-3 font-mono text-[13px]">
            {line.finish}
            {line.dueAtMs === undefined ? '' : ` by ${new Date(line.dueAtMs).toTimeString().slice(0, 5)}`}
          </td>
          <td className="text-right whitespace-nowrap">
            <Button className="mr-2" aria-label={`Change ${line.call}`} onClick={() => open(i)}>
              Change
            </Button>
            <Button
              kind="stop"
              aria-label={`Take ${line.call} off the list`}
              onClick={() => put(lines.filter((_, at) => at !== i))}
            >
              Off the list
            </Button>
          </td>
        </tr>
      ))}
    </Table>
  );
}

/** All lines of a file, or none: what is wrong in it is named by its line. */
function ListFile({ put }: { put: (lines: readonly WatchLine[]) => void }) {
  const nowMs = useNow(60_000);
  return (
    <TextFile
      words="Take a CSV file …"
      label="CSV file of the list"
      accept=".csv,text/csv,text/plain"
      take={(text) => {
        const lines = readWatchList(text, nowMs);
        if (isMalformed(lines)) return { refused: lines.malformed };
        put(lines);
        return { taken: `${lines.length} taken; save the list to begin with them.` };
      }}
    />
  );
}

function Legs({ values, set }: { values: Values; set: (values: Values) => void }) {
  return (
    <div className="flex flex-col items-start gap-2 border-t border-line pt-2">
      <h2>Ways and areas</h2>
      {values.legs.length === 0 ? (
        <p className="text-[14px] text-ink2">
          None. A line of a GPX or GeoJSON file is a way to be kept to, a polygon is ground not to be left.
        </p>
      ) : (
        <ul className="w-full max-w-xl text-[14px]">
          {values.legs.map((leg) => (
            <li key={leg.name} className="flex items-center gap-3 border-t border-line py-1">
              <span className="flex-1">
                {leg.name}{' '}
                <span className="text-ink3">
                  {leg.kind === 'area' ? 'area' : 'way'} of {leg.points.length} points
                </span>
              </span>
              <Button
                kind="stop"
                aria-label={`Drop ${leg.name}`}
                onClick={() =>
                  set({
                    ...values,
                    legs: values.legs.filter(({ name }) => name !== leg.name),
                    watched: values.watched.map((one) => (one.leg === leg.name ? { ...one, leg: '' } : one)),
                  })
                }
              >
                Drop
              </Button>
            </li>
          ))}
        </ul>
      )}
      <TextFile
        words="Take a GPX or GeoJSON file …"
        label="File of ways, GPX or GeoJSON"
        accept=".gpx,.geojson,.json"
        take={(text, name) => {
          const legs = readLegs(text, name.replace(/\.\w+$/, ''));
          if (isMalformed(legs)) return { refused: legs.malformed };
          const kept = values.legs.filter((one) => !legs.some((leg) => leg.name === one.name));
          set({
            ...values,
            legs: [...kept, ...legs].map(({ points, ...leg }) => ({ ...leg, points: [...points] })),
          });
          return { taken: legs.map((leg) => leg.name).join(', ') };
        }}
      />
    </div>
  );
}

function TextFile({
  words,
  label,
  accept,
  take,
}: {
  words: string;
  label: string;
  accept: string;
  take: (text: string, name: string) => { taken: string } | { refused: string };
}) {
  const [said, setSaid] = useState<string>();
  const read = async (file: File): Promise<void> => {
    const outcome = take(await file.text(), file.name);
    setSaid('taken' in outcome ? outcome.taken : `Nothing of ${file.name} was taken: ${outcome.refused}.`);
  };
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <FileButton label={label} accept={accept} take={(file) => void read(file)}>
        {words}
      </FileButton>
      {said !== undefined && (
        <span role="status" className="text-[13.5px] text-ink2">
          {said}
        </span>
      )}
    </span>
  );
}
