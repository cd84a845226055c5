import { Link } from 'react-router';
import type { LinkView } from '@mistpeak/contract/link';

/** What there is to know and to set of a link: each part fits a screen and has its own address. */
export const SECTIONS = {
  link: 'Link',
  channel: 'Channel access',
  frames: 'Frame length and window',
  sharing: 'Other programs',
} as const;
export type Section = keyof typeof SECTIONS;

export const isSection = (text: string | undefined): text is Section =>
  text !== undefined && Object.hasOwn(SECTIONS, text);

export function SectionLinks({ link, section }: { link: LinkView; section: Section }) {
  return (
    <nav aria-label="Parts of the link" className="flex flex-wrap gap-x-5 border-b border-line text-[14.5px]">
      {Object.entries(SECTIONS).map(([id, name]) => (
        <Link
          key={id}
          to={`/tnc/${link.id}/${id}`}
          aria-current={id === section ? 'page' : undefined}
          className="-mb-px inline-flex min-h-9 items-center border-b-[2.5px] border-transparent text-ink2 hover:text-ink aria-[current=page]:border-ink aria-[current=page]:font-[640] aria-[current=page]:text-ink max-md:min-h-11"
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}
