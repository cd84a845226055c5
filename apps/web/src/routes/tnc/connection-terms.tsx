import { typedNumber } from '@mistpeak/core/units/typed-number';
import { lazy, memo, Suspense, useState } from 'react';
import {
  meanWaitMs,
  PACKET_OCTETS,
  recommend,
  throughput,
  type ConnectionTerms,
} from '@mistpeak/core/throughput/throughput';
import type { LinkView } from '@mistpeak/contract/link';
import { Table } from '../../pieces/table';
import { SelectField, TextField } from '../../pieces/field';

const ThroughputChart = lazy(() =>
  import('./throughput-chart').then((module) => ({ default: module.ThroughputChart })),
);

const SHOWN_WINDOWS = [1, 2, 4, 7] as const;

/**
 * PACLEN, MAXFRAME, T1 and retries for connections over this link, and what each choice brings across. Reckoned again only
 * when something changes: the page round it is drawn every second.
 */
export const ConnectionTermsPanel = memo(function ConnectionTermsPanel({ link }: { link: LinkView }) {
  const [digipeaters, setDigipeaters] = useState(0);
  const [lossText, setLossText] = useState('5');
  const [selective, setSelective] = useState(false);
  const typed = typedNumber(lossText);
  const percent = typed >= 0 && typed <= 60 ? typed : undefined;
  const { airRate, txDelayMs, txTailMs, persistence, slotTimeMs } = link.settings;
  const terms: ConnectionTerms = {
    baud: airRate,
    txDelayMs,
    txTailMs,
    // Persistence 0 never sends; a sixteenth is the least that is reckoned with.
    channelWaitMs: meanWaitMs(Math.max(persistence, 1 / 16), slotTimeMs),
    digipeaters,
    frameLoss: (percent ?? 5) / 100,
    selective,
  };
  const best = recommend(terms);
  return (
    <section aria-label="Connections" className="border-t-[1.5px] border-ink pt-2.5">
      <h3 className="text-[1.05rem] font-[650]">For connections: PACLEN, MAXFRAME, T1</h3>
      <p className="text-[13.5px] text-ink2">
        Long frames and large windows carry more while nothing is lost, and lose more when something is. Enter
        these values in the program that makes the connection.
      </p>
      <div className="grid max-w-[44rem] gap-4 pt-2 sm:grid-cols-3">
        <SelectField
          label="Digipeaters between"
          hint="Each repeats every frame"
          value={digipeaters}
          onChange={({ target }) => setDigipeaters(Number(target.value))}
        >
          {[0, 1, 2].map((one) => (
            <option key={one}>{one}</option>
          ))}
        </SelectField>
        <TextField
          label="Frames lost, %"
          mono
          inputMode="decimal"
          hint="Of 128 octets, on each leg: retries show it"
          error={percent === undefined ? 'a number from 0 to 60' : undefined}
          value={lossText}
          onChange={({ target }) => setLossText(target.value)}
        />
        <SelectField
          label="A lost frame is asked for"
          hint="Single repeats need both ends"
          value={selective ? 'yes' : 'no'}
          onChange={({ target }) => setSelective(target.value === 'yes')}
        >
          <option value="no">with all after it (REJ)</option>
          <option value="yes">alone (SREJ)</option>
        </SelectField>
      </div>
      <dl className="flex flex-wrap gap-x-8 gap-y-2 pt-3">
        <Value term="PACLEN" value={`${best.packetOctets}`} about="octets in a frame" />
        <Value term="MAXFRAME" value={`${best.window}`} about="frames on the way" />
        <Value
          term="T1"
          value={`${(best.firstT1Ms / 1000).toFixed(1)} s`}
          about="until the other end is asked, at first"
        />
        <Value
          term="Retries"
          value={`${best.retries}`}
          about={best.retries === 10 ? 'the standard’s default' : 'so that a bad channel does not end it'}
        />
        <Value
          term="Brings across"
          value={`about ${best.octetsPerSecond.toFixed(0)}`}
          about="octets a second"
        />
      </dl>
      <p className="pt-1.5 text-[13.5px] text-ink2">{because(terms, best)}</p>
      <div className="pt-2">
        <Suspense fallback={<div className="h-56" />}>
          <ThroughputChart terms={terms} chosen={best} />
        </Suspense>
      </div>
      <details className="pt-1 text-[14px]">
        <summary className="cursor-pointer text-ink2">The same in numbers, octets a second</summary>
        <Table
          className="mt-2"
          columns={[
            { head: 'PACLEN', className: 'pr-4' },
            ...SHOWN_WINDOWS.map((window) => ({ head: `MAXFRAME ${window}`, className: 'pr-4 text-right' })),
          ]}
        >
          {PACKET_OCTETS.map((packetOctets) => (
            <tr key={packetOctets} className="border-t border-line font-mono">
              <th className="py-1 pr-4 font-[500]">{packetOctets}</th>
              {SHOWN_WINDOWS.map((window) => (
                <td key={window} className="pr-4 text-right">
                  {throughput(terms, { packetOctets, window }).toFixed(0)}
                </td>
              ))}
            </tr>
          ))}
        </Table>
      </details>
    </section>
  );
});

/** What the recommendation gains, and what the reckoning rests on. */
function because(terms: ConnectionTerms, best: ReturnType<typeof recommend>): string {
  const usual = throughput(terms, { packetOctets: 128, window: 4 });
  const gain = best.octetsPerSecond / usual - 1;
  const beside =
    gain > 0.03
      ? `${Math.round(gain * 100)} % more than with the usual 128 and 4`
      : 'about the same as with the usual 128 and 4, with less to send again';
  return `The shortest frame and the smallest window within 3 % of the best: ${beside}. Reckoned from ${terms.baud} Bd, TXDELAY ${terms.txDelayMs} ms, a mean wait of ${Math.round(terms.channelWaitMs)} ms and ${Math.round(terms.frameLoss * 100)} % lost; the simulation of both ends gives up to a third less where several frames are on the way.`;
}

function Value({ term, value, about }: { term: string; value: string; about: string }) {
  return (
    <div>
      <dt className="text-[13px] text-ink3">{term}</dt>
      <dd>
        <b className="font-mono text-[1.15rem] font-[640]">{value}</b>
        <span className="block text-[12.5px] text-ink3">{about}</span>
      </dd>
    </div>
  );
}
