import type { TallyView } from '@mistpeak/contract/link';
import { useNow } from '../../live/now';
import { formatAge } from '../../pieces/age';
import { Table } from '../../pieces/table';

const MEANINGS: Record<string, string> = {
  'outside a frame': 'octets before any KISS frame: text from a TNC that is not in KISS mode, or noise',
  'bad escape': 'an escape that KISS does not know: octets were lost on the wire',
  'too long': 'over 4096 octets: no AX.25 frame is that long',
  'unknown command': 'a KISS command that is not published',
  'unexpected command': 'a parameter coming from the TNC: it goes the other way only',
  'empty frame': 'a data frame with nothing in it',
  'bad parameter': 'a parameter of the wrong length',
  'cut off': 'the wire ended inside a frame',
  'not AX.25': 'a KISS frame whose content is no AX.25 frame',
  'not APRS': 'an AX.25 frame whose text is no APRS report',
};

/** What came in, so that a quiet channel and a broken cable do not look alike. */
export function TallyTable({ tally }: { tally: TallyView | undefined }) {
  const nowMs = useNow();
  const troubles = [...(tally?.troubles ?? [])].sort((a, b) => b.count - a.count);
  return (
    <section aria-label="What came in" className="border-t-[1.5px] border-ink pt-2.5">
      <h3 className="text-[1.05rem] font-[650]">What came in</h3>
      <Table columns={['What', { head: 'Count', className: 'pr-5 text-right' }, 'Last']}>
        <tr className="border-t border-line">
          <td className="py-1.5 font-[600]">frames that were read</td>
          <Counted count={tally?.frames ?? 0} />
          <Last ageMs={tally?.lastAtMs === undefined ? undefined : nowMs - tally.lastAtMs} />
        </tr>
        {troubles.map(({ reason, count, lastAtMs }) => (
          <tr key={reason} className="border-t border-line">
            <td className="py-1.5 pr-3">
              <b className="font-[600] text-look">{reason}</b>
              <span className="text-ink2">: {MEANINGS[reason] ?? ''}</span>
            </td>
            <Counted count={count} />
            <Last ageMs={nowMs - lastAtMs} />
          </tr>
        ))}
      </Table>
      {troubles.length === 0 && <p className="pt-1.5 text-[13.5px] text-ink2">Nothing has been discarded.</p>}
    </section>
  );
}

function Counted({ count }: { count: number }) {
  return <td className="pr-5 text-right font-mono align-top py-1.5">{count}</td>;
}

function Last({ ageMs }: { ageMs: number | undefined }) {
  return (
    <td className="font-mono align-top py-1.5 whitespace-nowrap">
      {ageMs === undefined ? '–' : `${formatAge(ageMs)} ago`}
    </td>
  );
}
