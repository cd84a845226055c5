import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { askForNotices, playTone, showNotice } from '../adapters/attention';

/** How this device draws attention besides title, badge and edge. */
export type Attention = 'silent' | 'notice' | 'tone';

export const useAttention = create<{ readonly how: Attention }>()(
  persist((): { readonly how: Attention } => ({ how: 'silent' }), { name: 'attention' }),
);

/** False where the browser refuses notices: then nothing is changed. */
export async function chooseAttention(how: Attention): Promise<boolean> {
  if (how === 'notice' && !(await askForNotices())) return false;
  useAttention.setState({ how });
  return true;
}

/** feedsRadio: what this device sounds goes on the air, so that it stays silent whatever was chosen. */
export const attentionNow = (how: Attention, feedsRadio: boolean): Attention => (feedsRadio ? 'silent' : how);

export function callAttention(words: string, how: Attention, feedsRadio: boolean): void {
  const now = attentionNow(how, feedsRadio);
  if (now === 'notice') showNotice(words);
  else if (now === 'tone') playTone();
}
