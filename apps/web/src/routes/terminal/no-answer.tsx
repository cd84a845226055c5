import { meantPerhaps } from '@mistpeak/core/messages/addressee';
import { causesOfNoAnswer } from '@mistpeak/core/terminal/no-answer';
import type { SessionView } from '@mistpeak/contract/sessions';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';

/** While it is called: what was heard meanwhile; afterwards: why nobody answers, the likeliest first, with its test. */
export function NoAnswer({ view }: { view: SessionView }) {
  const stations = useLive((state) => state.stations);
  const nodes = useLive((state) => state.terminal.nodes);
  const channelMHz = useLive((state) => state.operator?.channelMHz);
  const nowMs = useNow(5000);
  const { peer, via, heardMeanwhile, wasEchoed, outcome } = view;
  const agoOf = (call: string): number | undefined => {
    const station = stations.get(call);
    return station && nowMs - station.heardAtMs;
  };
  if (outcome === undefined)
    return (
      <p className="text-[14px] text-ink2">
        {heardMeanwhile === 0
          ? 'Nothing was heard on this link since the call began.'
          : `${heardMeanwhile} frames were heard on this link since the call began${wasEchoed ? ', the call itself among them' : ''}.`}
      </p>
    );
  if (!outcome.startsWith('no answer')) return null;
  const saved = nodes.find(({ call }) => call === peer);
  const isKnown = stations.has(peer) || saved !== undefined;
  const [meant] = isKnown ? [] : meantPerhaps(peer, [...stations.keys()]);
  const set = view.frequencyMHz ?? channelMHz;
  const lastHeardAgoMs = agoOf(peer);
  const causes = causesOfNoAnswer({
    to: peer,
    via,
    wasEchoed,
    heardSince: heardMeanwhile,
    lastHeardAgoMs,
    viaHeardAgoMs: via.map(agoOf),
    ...(meant === undefined ? {} : { meant }),
    ...(set === undefined ? {} : { frequencyMHz: set }),
    ...(saved?.frequencyMHz === undefined ? {} : { savedFrequencyMHz: saved.frequencyMHz }),
  });
  return (
    <section aria-label="Why nobody answers" className="border-l-[3px] border-look pl-3">
      <h3 className="text-[1rem] font-[650]">Why nobody answers, the likeliest first</h3>
      <ol className="list-decimal pl-5 text-[14px]">
        {causes.slice(0, 5).map(({ cause, test }) => (
          <li key={cause} className="py-1">
            {cause}
            <span className="block text-ink2">
              <span className="font-[620] text-ink">Test: </span>
              {test}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
