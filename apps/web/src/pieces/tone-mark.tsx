import { Check, CircleDashed, TriangleAlert, X } from 'lucide-react';
import { useLive } from '../live/store';
import { TONE_TEXT, type Tone } from './link-words';

const SHAPES = { proved: Check, look: TriangleAlert, stop: X, quiet: CircleDashed } as const;

/** A state by shape and colour; the word stands beside it. While the server is silent nothing is known to be well. */
export function ToneMark({ tone }: { tone: Tone }) {
  const isKnown = useLive((state) => state.connection === 'open');
  const Shape = SHAPES[tone === 'proved' && !isKnown ? 'quiet' : tone];
  return <Shape aria-hidden className={`size-4 shrink-0 ${TONE_TEXT[tone]}`} strokeWidth={2.6} />;
}
