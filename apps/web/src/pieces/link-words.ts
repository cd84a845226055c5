import { failureText } from '@mistpeak/contract/failures';
import type { LinkView } from '@mistpeak/contract/link';
import { formatAge } from './age';

export type Tone = 'proved' | 'look' | 'stop' | 'quiet';

/** The state of a link as a word, its tone, and what it means. */
export function describeLink(
  link: LinkView,
  lastHeardAtMs: number | undefined,
  nowMs: number,
): { word: string; tone: Tone; means: string } {
  if (link.heldElsewhere)
    return { word: 'held elsewhere', tone: 'look', means: 'Another Mistpeak process holds this link.' };
  const ago = lastHeardAtMs === undefined ? '' : `, ${formatAge(nowMs - lastHeardAtMs)} ago`;
  switch (link.phase) {
    case 'closed':
      return { word: 'closed', tone: 'quiet', means: 'Open it to hear what the TNC decodes.' };
    case 'opening':
      return {
        word: `opening${link.openingSinceMs === undefined ? '' : `, for ${formatAge(nowMs - link.openingSinceMs)}`}`,
        tone: 'look',
        means: 'Waiting for the far end, at most half a minute: a Bluetooth port may take as long.',
      };
    case 'silent':
      return {
        word: 'open and silent',
        tone: 'look',
        means: silentWords(link, lastHeardAtMs, nowMs),
      };
    case 'hearing':
      return {
        word: `hearing${ago}`,
        tone: 'proved',
        means: 'Packets are decoded: wire, TNC and receiver work.',
      };
    case 'transmitting':
      return { word: 'transmitting', tone: 'look', means: 'A frame of ours is with the TNC and going out.' };
    case 'failed':
      return {
        word: `failed: ${failureWord(link)}`,
        tone: 'stop',
        means: link.retryAtMs === undefined ? '' : `Tried again in ${formatAge(link.retryAtMs - nowMs)}.`,
      };
  }
}

/** How long it has really been: the link may have been opened a moment ago. */
function silentWords({ openedAtMs }: LinkView, lastHeardAtMs: number | undefined, nowMs: number): string {
  if (openedAtMs === undefined) return 'The wire stands, and no packet has come.';
  if (lastHeardAtMs !== undefined && lastHeardAtMs >= openedAtMs)
    return `The wire stands, but no packet was decoded for ${formatAge(nowMs - lastHeardAtMs)}.`;
  return `The wire has stood for ${formatAge(nowMs - openedAtMs)}, and no packet was decoded yet.`;
}

function failureWord(link: LinkView): string {
  return failureText(link.failure ?? 'other')
    .happened.replace(/\.$/, '')
    .toLowerCase();
}

export const TONE_TEXT: Record<Tone, string> = {
  proved: 'text-proved',
  look: 'text-look',
  stop: 'text-stop',
  quiet: 'text-ink3',
};
