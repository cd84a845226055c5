import { useState } from 'react';
import {
  FACILITY_KINDS,
  facilityKey,
  type FacilityFacts,
  type FacilityKind,
} from '@mistpeak/core/gateways/facility';
import { formatPlace } from '@mistpeak/core/geo/place';
import type { TakenView } from '@mistpeak/contract/gateways';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { Button } from '../../pieces/button';
import { SelectField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';

/** Of a paste no more are shown and taken at once. */
const MOST = 500;

/** What was recognised, shown before anything of it is taken. */
export function Candidates({
  facts,
  by,
  name,
  choosesKind = false,
}: {
  facts: readonly FacilityFacts[];
  by: 'paste' | 'heard' | 'mail';
  name: string;
  /** The text does not say what they are. */
  choosesKind?: boolean;
}) {
  const [left, setLeft] = useState<readonly string[]>([]);
  const [kind, setKind] = useState<FacilityKind>('mail gateway');
  const [taken, setTaken] = useState<TakenView>();
  const { problem, isBusy, attempt } = useAttempt();
  if (facts.length === 0) return null;
  const shown = facts.slice(0, MOST);
  const wanted = shown.filter((one) => !left.includes(facilityKey(one)));
  const take = async (): Promise<void> => {
    const list = choosesKind ? wanted.map((one) => ({ ...one, kind })) : wanted;
    setTaken(await command<TakenView>('POST', '/gateways/facts', { by, name, facts: list }));
  };
  return (
    <div className="flex w-full flex-col items-start gap-2">
      {choosesKind && (
        <div className="w-48">
          <SelectField
            label="They are"
            value={kind}
            onChange={({ target }) => setKind(target.value as FacilityKind)}
          >
            {FACILITY_KINDS.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </SelectField>
        </div>
      )}
      <Table
        columns={[{ head: 'Take', isHidden: true }, 'Call', 'MHz', 'What', 'Place', 'As it stands there']}
      >
        {shown.map((one, i) => {
          const key = facilityKey(one);
          return (
            <tr key={`${key} ${i}`} className="border-t border-line align-baseline">
              <td className="w-8">
                <input
                  type="checkbox"
                  aria-label={`Take ${key}`}
                  className="size-4.5"
                  checked={!left.includes(key)}
                  onChange={({ target }) =>
                    setLeft(target.checked ? left.filter((other) => other !== key) : [...left, key])
                  }
                />
              </td>
              <th scope="row" className="pr-3 text-left font-mono font-[620]">
                {one.call}
              </th>
              <td className="pr-3 font-mono">{one.frequencyMHz.toFixed(3)}</td>
              <td className="pr-3">{choosesKind ? kind : one.kind}</td>
              <td className="pr-3 font-mono text-[13px]">{one.position ? formatPlace(one.position) : ''}</td>
              <td className="text-[13px] text-ink2">{one.notes}</td>
            </tr>
          );
        })}
      </Table>
      <Button kind="main" disabled={isBusy || wanted.length === 0} onClick={() => void attempt(take)}>
        Take {wanted.length} into the directory
      </Button>
      <Taken taken={taken} />
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

/** What came of it, in words. */
export function Taken({ taken }: { taken: TakenView | undefined }) {
  if (!taken) return null;
  const { added, completed, conflicts, leftOut, why } = taken;
  return (
    <div role="status" className="text-[14px]">
      <p className="text-proved">
        {added} added, {completed} completed or confirmed
        {conflicts > 0 && `, ${conflicts} told differently: decide on top of the page`}
        {leftOut > 0 && `, ${leftOut} ${leftOut === 1 ? 'row' : 'rows'} left out`}.
      </p>
      {why.length > 0 && (
        <ul className="text-ink2">
          {why.map(({ row, why: reason }) => (
            <li key={row}>
              Row {row}: {reason}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
