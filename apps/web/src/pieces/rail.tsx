import { CircleDot, MountainSnow, RadioTower, SlidersHorizontal } from 'lucide-react';
import { NavLink } from 'react-router';
import { PAGES, type Page } from '../routes';
import { LightChoice } from './light-choice';

const GROUPS = ['Prepare', 'Tune', 'Operate', 'Keep'] as const;
const GROUP_ICONS = {
  Prepare: SlidersHorizontal,
  Tune: CircleDot,
  Operate: RadioTower,
  Keep: CircleDot,
} as const;

/** The pages in working order, on the left of a desk screen. */
export function Rail() {
  return (
    <aside aria-label="Mistpeak" className="flex flex-col bg-rail text-railink max-md:hidden">
      <p className="flex items-center gap-2.5 px-4.5 pt-3.5 pb-3 text-[17px] font-[650] text-railhi">
        <svg width="26" height="20" viewBox="0 0 26 20" aria-hidden>
          <path
            d="M1 18 9 6l4 5 4-8 8 15"
            fill="none"
            stroke="currentColor"
            strokeWidth="2"
            strokeLinejoin="round"
          />
          <path d="M0 14h26" stroke="var(--provedfill)" strokeWidth="2" strokeDasharray="5 3" />
        </svg>
        Mistpeak
      </p>
      <nav aria-label="Pages" className="flex-1">
        {PAGES.filter(({ group }) => group === undefined).map((page) => (
          <RailLink key={page.path} page={page} />
        ))}
        {GROUPS.filter((group) => PAGES.some((page) => page.group === group)).map((group) => (
          <section key={group} aria-label={group}>
            <p className="px-4.5 pt-3.5 pb-1 text-[11.5px] font-[600] tracking-[0.8px]">{group}</p>
            {PAGES.filter((page) => page.group === group).map((page) => (
              <RailLink key={page.path} page={page} />
            ))}
          </section>
        ))}
      </nav>
      <LightChoice />
    </aside>
  );
}

function RailLink({ page }: { page: Page }) {
  return (
    <NavLink
      to={page.path}
      className={({ isActive }) =>
        `flex px-4.5 py-1 text-[14.5px] hover:text-railhi ${isActive ? 'bg-[linear-gradient(90deg,color-mix(in_srgb,var(--provedfill)_30%,transparent),transparent)] text-railhi shadow-[inset_3px_0_var(--provedfill)]' : ''}`
      }
    >
      {page.label}
    </NavLink>
  );
}

/** The same pages at the lower edge of a phone. */
export function BottomBar() {
  return (
    <nav aria-label="Pages" className="fixed inset-x-0 bottom-0 z-20 flex bg-rail text-railink md:hidden">
      {PAGES.map((page) => {
        const Icon = page.group === undefined ? MountainSnow : GROUP_ICONS[page.group];
        return (
          <NavLink
            key={page.path}
            to={page.path}
            className={({ isActive }) =>
              `flex min-h-16 flex-1 flex-col items-center justify-center gap-1 text-[13px] ${isActive ? 'text-railhi shadow-[inset_0_3px_var(--provedfill)]' : ''}`
            }
          >
            <Icon aria-hidden className="size-5" />
            {page.label}
          </NavLink>
        );
      })}
      <LightChoice compact />
    </nav>
  );
}
