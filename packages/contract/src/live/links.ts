import type { LinkView, PortListeningView } from '../link.js';
import type { SharingView } from '../sharing.js';

/** The links, the ports that are listened to, and who shares a TNC. */
export interface LinksSnapshot {
  readonly links: readonly LinkView[];
  readonly sharing: readonly SharingView[];
}

export interface LinksEvents {
  link: LinkView;
  'link-removed': { readonly id: string };
  'port-listening': PortListeningView;
  sharing: SharingView;
}
