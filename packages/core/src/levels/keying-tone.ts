import type { Heard } from './heard.js';

/** Is my keying tone heard? By a second receiver, while own packets are sent. */
export function judgeKeyingTone(
  { tones, packets }: Pick<Heard, 'tones' | 'packets'>,
  ownLevelDbfs: number | undefined,
): { readonly isHeard: boolean; readonly words: string; readonly number: string; readonly turn: string } {
  const leaking = [...tones].sort((a, b) => b.dbfs - a.dbfs).find(({ when }) => when === 'with packets');
  if (packets.length === 0)
    return {
      isHeard: false,
      words: 'The second receiver heard no packet of yours, so nothing can be said.',
      number: 'no packet',
      turn: 'Tune it to the same channel, and send once more.',
    };
  if (!leaking)
    return {
      isHeard: false,
      words: 'The keying tone is not heard.',
      number: `${packets.length} packets, no tone between 300 Hz and 5 kHz beside them`,
      turn: 'Leave it as it is.',
    };
  const below =
    ownLevelDbfs === undefined ? '' : `, ${(ownLevelDbfs - leaking.dbfs).toFixed(0)} dB below the data`;
  return {
    isHeard: true,
    words: `Your keying tone is heard: ${leaking.hz.toFixed(0)} Hz beside your packets.`,
    number: `${leaking.dbfs.toFixed(0).replace('-', '−')} dBFS${below}`,
    turn: 'Choose a tone above 10 kHz that the sample rate carries, keep it on the channel that only keys, and take its level down as far as the key holds.',
  };
}
