import { Check, CircleDashed, TriangleAlert, X } from 'lucide-react';
import { TONE_TEXT, type Tone } from './link-words';

const SHAPES = { proved: Check, look: TriangleAlert, stop: X, quiet: CircleDashed } as const;

/** A state by shape and colour; the word stands beside it. */
export function ToneMark({ tone }: { tone: Tone }) {
  const Shape = SHAPES[tone];
  return <Shape aria-hidden className={`size-4 shrink-0 ${TONE_TEXT[tone]}`} strokeWidth={2.6} />;
}
