import { useState } from 'react';
import { formatAge } from '../../pieces/age';
import { useNow } from '../../live/now';
import { ProblemNote } from '../../pieces/problem-note';
import { SelectField } from '../../pieces/field';
import { Table } from '../../pieces/table';
import { useHeardNetwork } from './lab-now';
import { SitesEditor } from './sites-editor';
import { TilesDrop } from './tiles-drop';

const HOURS = [6, 24, 24 * 7, 24 * 30];

/** Who repeats whom, as the journal tells; what the operator knows besides; the ground. */
export function NetworkView() {
  const [hours, setHours] = useState(24);
  const { network, problem } = useHeardNetwork(hours);
  const nowMs = useNow(10_000);
  return (
    <div className="flex flex-col gap-6">
      <section aria-label="Who repeats whom" className="flex flex-col gap-2">
        <div className="flex flex-wrap items-end gap-4">
          <p className="mr-auto text-[19px] leading-snug font-[620]" role="status">
            {!network
              ? 'Reading the journal …'
              : network.repeaters.length === 0
                ? 'Nobody was heard to repeat anybody.'
                : `${network.repeaters.length} repeat, of ${network.sources.length} stations heard.`}
          </p>
          <div className="w-40">
            <SelectField
              label="Of the last"
              value={hours}
              onChange={({ target }) => setHours(Number(target.value))}
            >
              {HOURS.map((one) => (
                <option key={one} value={one}>
                  {one < 48 ? `${one} hours` : `${one / 24} days`}
                </option>
              ))}
            </SelectField>
          </div>
        </div>
        {problem && <ProblemNote problem={problem} />}
        {network && network.repeaters.length > 0 && (
          <Table
            stacks
            columns={['Repeats', 'Packets', 'Heard here itself', 'Serves, most likely', 'Of whom', 'Last']}
            className="w-full text-[14px]"
          >
            {network.repeaters.map(({ call, count, heardHere, aliases, from, lastAtMs }) => (
              <tr key={call} className="border-t border-line align-baseline" data-call={call}>
                <th scope="row" className="py-1.5 pr-3 font-mono font-[620] whitespace-nowrap">
                  {call}
                </th>
                <td className="pr-3 font-mono">
                  {count}
                  <span className="md:hidden"> packets,</span>
                </td>
                <td className="pr-3 font-mono">
                  {heardHere}
                  <span className="md:hidden"> heard here itself</span>
                </td>
                <td className="pr-3 font-mono text-[13px]">{most(aliases)}</td>
                <td className="pr-3 font-mono text-[13px] text-ink2">{most(from)}</td>
                <td className="font-mono whitespace-nowrap">{formatAge(nowMs - lastAtMs)} ago</td>
              </tr>
            ))}
          </Table>
        )}
      </section>
      <SitesEditor />
      <TilesDrop />
    </div>
  );
}

const SHOWN = 4;

function most(counts: Readonly<Record<string, number>>): string {
  const all = Object.entries(counts).sort((a, b) => b[1] - a[1]);
  const rest = all.length - SHOWN;
  return (
    all
      .slice(0, SHOWN)
      .map(([name, count]) => `${name} ${count}×`)
      .join(', ') + (rest > 0 ? ` and ${rest} more` : '')
  );
}
