import { useMemo, useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import {
  COLUMN_MEANINGS,
  guessMapping,
  isLeftOut,
  LONGEST_LIST,
  readList,
  readRows,
  type ColumnMapping,
  type ColumnMeaning,
  type Rows,
} from '@mistpeak/core/gateways/columns';
import { FACILITY_KINDS, type FacilityKind } from '@mistpeak/core/gateways/facility';
import type { TakenView } from '@mistpeak/contract/gateways';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import type { Directory } from '../../live/directory';
import { Button } from '../../pieces/button';
import { FileButton } from '../../pieces/file-button';
import { SelectField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';
import { Taken } from './candidates';

const SHOWN_ROWS = 3;
/** So many are tried before it is sent. */
const TRIED_ROWS = 200;

interface Opened {
  readonly name: string;
  readonly text: string;
  readonly rows: Rows;
}

/** A list as a file: each column is told what it means, once for all lists with these columns. */
export function ListForm({ directory }: { directory: Directory }) {
  const [opened, setOpened] = useState<Opened>();
  const [wrong, setWrong] = useState('');
  const open = async (file: File): Promise<void> => {
    setOpened(undefined);
    setWrong('');
    // Before it is read: a file of gigabytes would take this page with it.
    if (file.size > LONGEST_LIST) return setWrong(`${file.name} is longer than any list of gateways`);
    const text = await file.text();
    const rows = readRows(text);
    if (isMalformed(rows)) return setWrong(`${file.name}: ${rows.malformed}`);
    setOpened({ name: file.name, text, rows });
  };
  return (
    <section aria-label="A list" className="flex flex-col items-start gap-2">
      <h2>A list as a file</h2>
      <p className="text-[14px] text-ink2">
        CSV with a line of column names, or JSON. You say what each column means; it is remembered.
      </p>
      <FileButton
        label="List of gateways"
        accept=".csv,.json,.txt,text/csv,application/json"
        take={(file) => void open(file)}
      >
        Open a list …
      </FileButton>
      {wrong && (
        <p role="alert" className="text-[14px] text-stop">
          {wrong}
        </p>
      )}
      {opened && <Mapping key={opened.name + opened.text.length} opened={opened} directory={directory} />}
    </section>
  );
}

function Mapping({ opened: { name, text, rows }, directory }: { opened: Opened; directory: Directory }) {
  const remembered = directory.mappings[rows.columns.join(',')];
  const [mapping, setMapping] = useState<ColumnMapping>(remembered?.mapping ?? guessMapping(rows.columns));
  const [usualKind, setUsualKind] = useState<FacilityKind>(remembered?.usualKind ?? 'mail gateway');
  const [taken, setTaken] = useState<TakenView>();
  const { problem, isBusy, attempt } = useAttempt();
  const tried = useMemo(() => {
    const some = { columns: rows.columns, rows: rows.rows.slice(0, TRIED_ROWS) };
    const read = readList(some, mapping, usualKind);
    return {
      of: read.length,
      good: read.filter((one) => !isLeftOut(one)).length,
      left: read.find(isLeftOut),
    };
  }, [rows, mapping, usualKind]);
  const mean = (column: string, meaning: string): void => {
    const { [column]: _, ...others } = mapping;
    setMapping(meaning === '' ? others : { ...others, [column]: meaning as ColumnMeaning });
  };
  return (
    <div className="flex w-full flex-col items-start gap-2">
      <p className="text-[14px]">
        <b>{name}</b>: {rows.rows.length} rows. {remembered ? 'Its columns are known from before.' : ''}
      </p>
      <div className="w-full overflow-x-auto">
        <Table columns={['Column', 'Means', 'As in the first rows']}>
          {rows.columns.map((column) => (
            <tr key={column} className="border-t border-line align-baseline">
              <th scope="row" className="pr-3 text-left font-mono font-[560]">
                {column}
              </th>
              <td className="pr-3">
                <select
                  aria-label={`What ${column} means`}
                  value={mapping[column] ?? ''}
                  onChange={({ target }) => mean(column, target.value)}
                  className="rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 max-md:min-h-11"
                >
                  <option value="">nothing</option>
                  {COLUMN_MEANINGS.map((meaning) => (
                    <option key={meaning}>{meaning}</option>
                  ))}
                </select>
              </td>
              <td className="font-mono text-[13px] text-ink2">
                {rows.rows
                  .slice(0, SHOWN_ROWS)
                  .map((row) => row[column])
                  .filter(Boolean)
                  .join(' · ')}
              </td>
            </tr>
          ))}
        </Table>
      </div>
      <div className="w-56">
        <SelectField
          label="Rows that do not say are"
          value={usualKind}
          onChange={({ target }) => setUsualKind(target.value as FacilityKind)}
        >
          {FACILITY_KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </SelectField>
      </div>
      <p className={`text-[14px] ${tried.good === 0 ? 'text-stop' : 'text-ink2'}`}>
        Of the first {tried.of} rows {tried.good} can be read
        {tried.left ? `; row ${tried.left.row} not: ${tried.left.why}` : ''}.
      </p>
      <Button
        kind="main"
        disabled={isBusy || tried.good === 0}
        onClick={() =>
          void attempt(async () =>
            setTaken(
              await command<TakenView>('POST', '/gateways/lists', {
                by: 'file',
                name,
                text,
                mapping,
                usualKind,
              }),
            ),
          )
        }
      >
        Take it into the directory
      </Button>
      <Taken taken={taken} />
      {problem && <ProblemNote problem={problem} detail={Object.values(problem.fields ?? {}).join('; ')} />}
    </div>
  );
}
