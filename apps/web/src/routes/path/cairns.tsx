import { named } from '@mistpeak/core/path-lab/advice';
import type { Stage } from '@mistpeak/core/path-lab/follow';
import { formatSeconds } from '../../pieces/age';

const SHAPES: Record<Stage['kind'], string> = {
  sent: 'sends',
  repeated: 'repeats',
  gated: 'to the internet',
  'let be': 'lets it be',
  lost: 'lost',
};

/** The way of one packet: a cairn for everyone who had it, in order of time; the hops that are left as pips that go out. */
export function Cairns({ path, stages }: { path: string; stages: readonly Stage[] }) {
  const most = Math.max(1, ...stages.map(({ hopsLeft }) => hopsLeft));
  return (
    <section aria-label="One packet, hop by hop" className="border-t-[1.5px] border-ink pt-2.5">
      <h2>
        One packet by <span className="font-mono">{named(path)}</span>, hop by hop
      </h2>
      <ol className="pt-1.5" data-testid="cairns">
        {stages.map((stage, i) => (
          <li key={i} className="grid grid-cols-[4.5rem_1.6rem_1fr] items-start gap-x-3 pb-1.5 text-[14px]">
            <span className="pt-0.5 text-right font-mono text-[12.5px] text-ink3">
              +{formatSeconds(stage.atMs)}
            </span>
            <Cairn kind={stage.kind} />
            <span className={stage.kind === 'let be' ? 'text-ink2' : ''}>
              <b className="font-mono">{stage.call}</b> {stage.words}.{' '}
              {(stage.kind === 'sent' || stage.kind === 'repeated') && (
                <>
                  <Pips left={stage.hopsLeft} of={most} />
                  <span className="block font-mono text-[12.5px] break-all text-ink3">
                    {stage.monitor || 'no path'}
                  </span>
                </>
              )}
              <span className="sr-only">{SHAPES[stage.kind]}</span>
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** Stones laid on one another: three where it went on, two where it ended well, one flat where it was let be, a gap where lost. */
function Cairn({ kind }: { kind: Stage['kind'] }) {
  const isOn = kind === 'sent' || kind === 'repeated' || kind === 'gated';
  const fill = kind === 'gated' ? 'var(--provedfill)' : isOn ? 'var(--ink)' : 'none';
  const stroke = kind === 'lost' ? 'var(--stop)' : isOn ? 'var(--ink)' : 'var(--ink3)';
  const dash = kind === 'lost' ? '2 2' : undefined;
  return (
    <svg aria-hidden viewBox="0 0 24 24" className="mt-0.5 size-6">
      <ellipse cx="12" cy="19" rx="9" ry="3.6" fill={fill} stroke={stroke} strokeDasharray={dash} />
      {isOn && <ellipse cx="12" cy="13" rx="6.5" ry="3" fill={fill} stroke={stroke} />}
      {isOn && kind !== 'sent' && <ellipse cx="12" cy="8" rx="4" ry="2.4" fill={fill} stroke={stroke} />}
    </svg>
  );
}

function Pips({ left, of }: { left: number; of: number }) {
  return (
    <span
      role="img"
      aria-label={left === 0 ? 'no hop left' : left === 1 ? 'one hop left' : `${left} hops left`}
      className="inline-flex gap-1 pl-1 align-middle"
    >
      {Array.from({ length: of }, (_, i) => (
        <span key={i} className={`size-2.5 rounded-full border border-ink ${i < left ? 'bg-ink' : ''}`} />
      ))}
    </span>
  );
}
