import { listAges, USUAL_OCTETS_PER_SECOND } from '@mistpeak/core/gateways/list-age';
import { byDistance, byHour, bySeason } from '@mistpeak/core/gateways/success';
import type { Position } from '@mistpeak/core/geo/position';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { Directory } from '../../live/directory';
import { useNow } from '../../live/now';
import { Table } from '../../pieces/table';
import { Successes } from './facts';

/** Are the lists still good, and what do my own tries say? */
export default function ListsView({ directory, operator }: { directory: Directory; operator: OperatorView }) {
  const nowMs = useNow(60_000);
  const lists = listAges(directory.facilities, { nowMs, octetsPerSecond: USUAL_OCTETS_PER_SECOND });
  const own = directory.attempts.filter(({ reporter }) => reporter === undefined);
  const placeOf = (call: string): Position | undefined =>
    directory.facilities.find((one) => one.call === call && one.position)?.position;
  const hf = new Set(directory.facilities.filter((one) => one.frequencyMHz < 30).map(({ call }) => call));
  const hfOwn = own.filter(({ call }) => hf.has(call));
  return (
    <div className="flex max-w-[62rem] flex-col gap-5">
      <section aria-label="Lists" className="flex flex-col gap-2">
        <h2>Lists</h2>
        {lists.length === 0 ? (
          <p className="text-[14px] text-ink2">
            No list was taken yet: what is known was heard, pasted or written.
          </p>
        ) : (
          <Table stacks columns={['List', 'Facts of', 'Age', 'By radio anew']}>
            {lists.map(({ name, facilities, days, isOld, hasPrediction, refreshMinutes }) => (
              <tr key={name} className="border-t border-line align-baseline">
                <th scope="row" className="pr-3 text-left font-[560]">
                  {name}
                </th>
                <td className="pr-3 font-mono">{facilities}</td>
                <td className={`pr-3 ${isOld ? 'text-look' : ''}`}>
                  {Math.floor(days)} d
                  {isOld &&
                    (hasPrediction ? ': its predictions are of another month' : ': look for a newer one')}
                </td>
                <td>about {Math.max(1, Math.ceil(refreshMinutes))} min on packet at 1200 Bd</td>
              </tr>
            ))}
          </Table>
        )}
        <p className="text-[13px] text-ink3">
          A list that is fetched over the internet at home costs no minute of the channel. Declared
          reliability is of the path, quality of the service: both are predictions, your own tries are not.
        </p>
      </section>
      <section aria-label="Own tries" className="flex flex-col gap-2 border-t-[1.5px] border-ink pt-2.5">
        <h2>My own tries</h2>
        {own.length === 0 ? (
          <p className="text-[14px] text-ink2">
            None yet: every call from Mail and the terminal is counted here.
          </p>
        ) : (
          <div className="flex flex-wrap gap-x-10 gap-y-3 text-[14px]">
            <Successes label="By hour" successes={byHour(own)} />
            {operator.position && (
              <Successes label="By season" successes={bySeason(own, operator.position)} />
            )}
            <Successes label="By distance" successes={byDistance(own, placeOf)} />
            {hfOwn.length > 0 && (
              <Successes label="On HF by distance" successes={byDistance(hfOwn, placeOf)} />
            )}
            {hfOwn.length > 0 && <Successes label="On HF by hour" successes={byHour(hfOwn)} />}
          </div>
        )}
      </section>
    </div>
  );
}
