import type { LinkView } from '@mistpeak/contract/link';
import { describeLink, type Tone } from './link-words';
import { useLive } from '../live/store';

/** The state of a link; while the server is silent, only what it was when it was last known. */
export function useLinkWords(
  link: LinkView,
  lastHeardAtMs: number | undefined,
  nowMs: number,
): { word: string; tone: Tone; means: string } {
  const isKnown = useLive((state) => state.connection === 'open');
  const words = describeLink(link, lastHeardAtMs, nowMs);
  if (isKnown) return words;
  return {
    word: `not known now; was ${words.word}`,
    tone: 'quiet',
    means: 'Mistpeak does not answer: this is what it told last.',
  };
}
