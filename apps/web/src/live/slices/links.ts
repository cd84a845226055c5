import type { LinkView, PortListeningView } from '@mistpeak/contract/link';
import type { LinksEvents } from '@mistpeak/contract/live/links';
import type { SharingView } from '@mistpeak/contract/sharing';
import { mapBy, replaceById, withEntry, type Slice } from './slice';

export interface LinksState {
  readonly links: readonly LinkView[];
  /** By link; absent where it was never switched on. */
  readonly sharing: ReadonlyMap<string, SharingView>;
  /** By path: what is listened to, or was since this page is open. */
  readonly listening: ReadonlyMap<string, PortListeningView>;
}

export const links: Slice<LinksState, keyof LinksEvents> = {
  empty: { links: [], sharing: new Map(), listening: new Map() },
  // What is listened to stands in no snapshot: it is told to whoever is there.
  ofSnapshot: ({ links, sharing }) => ({ links, sharing: mapBy(sharing, ({ linkId }) => linkId) }),
  on: {
    link: ({ links }, link) => ({ links: replaceById(links, link) }),
    'link-removed': ({ links }, { id }) => ({ links: links.filter((link) => link.id !== id) }),
    sharing: ({ sharing }, one) => ({ sharing: withEntry(sharing, one.linkId, one) }),
    'port-listening': ({ listening }, one) => ({ listening: withEntry(listening, one.path, one) }),
  },
};
