import { Link } from 'react-router';

/** The parts of one page: each fits a screen and has its own address. */
export function SectionLinks({
  label,
  sections,
  current,
  addressOf,
}: {
  label: string;
  sections: Readonly<Record<string, string>>;
  current: string;
  addressOf: (section: string) => string;
}) {
  return (
    <nav aria-label={label} className="flex flex-wrap gap-x-5 border-b border-line text-[14.5px]">
      {Object.entries(sections).map(([id, name]) => (
        <Link
          key={id}
          to={addressOf(id)}
          aria-current={id === current ? 'page' : undefined}
          className="-mb-px inline-flex min-h-9 items-center border-b-[2.5px] border-transparent text-ink2 hover:text-ink aria-[current=page]:border-ink aria-[current=page]:font-[640] aria-[current=page]:text-ink max-md:min-h-11"
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}
