import { ALL_WELL } from '@mistpeak/contract/health';
import { LiveService } from './live.service.js';

const health = ALL_WELL;

function service(published: number) {
  const live = new LiveService({ nowMs: () => 7, upMs: () => 7, after: () => () => undefined });
  live.contribute('health', () => health);
  const epochs = new Set<string>();
  live.listen(({ epoch }) => epochs.add(epoch));
  for (let i = 0; i < published; i++) live.publish({ kind: 'health', data: health });
  return { live, epoch: [...epochs][0] ?? '' };
}

const seqs = (
  events: readonly { seq: number; kind: string }[],
): [string | undefined, number | undefined, number | undefined] => [
  events[0]?.kind,
  events[0]?.seq,
  events.at(-1)?.seq,
];

describe('catching up', () => {
  it('gives what a page missed, and nothing to one that missed nothing', () => {
    const { live, epoch } = service(10);
    expect(seqs(live.catchUp(epoch, 7))).toEqual(['health', 8, 10]);
    expect(live.catchUp(epoch, 10)).toEqual([]);
  });

  it('reaches back two thousand events, no further: then a snapshot', () => {
    const { live, epoch } = service(5000);
    expect(seqs(live.catchUp(epoch, 3000))).toEqual(['health', 3001, 5000]);
    expect(seqs(live.catchUp(epoch, 2999))).toEqual(['snapshot', 5000, 5000]);
  });

  it('of another epoch, or from the future, is a snapshot', () => {
    const { live, epoch } = service(3);
    for (const events of [live.catchUp('other', 1), live.catchUp(null, 0), live.catchUp(epoch, 4)])
      expect(events).toMatchObject([{ kind: 'snapshot', seq: 3, data: { nowMs: 7, health } }]);
  });

  it('stops for a listener that left', () => {
    const { live } = service(0);
    const heard: number[] = [];
    const stop = live.listen(({ seq }) => heard.push(seq));
    live.publish({ kind: 'health', data: health });
    stop();
    live.publish({ kind: 'health', data: health });
    expect(heard).toEqual([1]);
  });
});
