import { BookOpen, CircleDot, MountainSnow, RadioTower, Settings, SlidersHorizontal } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { NavLink, useLocation, useNavigate } from 'react-router';
import type { ReactNode } from 'react';
import { useUnread } from '../live/conversations';
import { useLive } from '../live/store';
import { PAGES, type Page } from '../routes';

const GROUPS = ['Prepare', 'Tune', 'Operate', 'Keep'] as const;
const GROUP_ICONS = {
  Prepare: SlidersHorizontal,
  Tune: CircleDot,
  Operate: RadioTower,
  Keep: BookOpen,
  Foot: Settings,
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
      <nav aria-label="Pages" className="flex flex-1 flex-col">
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
        <div className="mt-auto py-3">
          {PAGES.filter(({ group }) => group === 'Foot').map((page) => (
            <RailLink key={page.path} page={page} />
          ))}
        </div>
      </nav>
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
      {page.path === '/messages' && <Unread />}
      {page.path === '/mail' && <UnreadMail />}
    </NavLink>
  );
}

function Unread() {
  return <Count some={useUnread()} />;
}

function Count({ some }: { some: number }) {
  if (some === 0) return null;
  return (
    <span className="ml-auto rounded-full bg-provedfill px-1.5 text-[12px] font-[650] text-onproved">
      {some}
      <span className="sr-only"> unread</span>
    </span>
  );
}

function UnreadMail() {
  return <Count some={useLive((state) => state.mail.unread)} />;
}

const BAR_ITEM =
  'flex min-h-16 flex-1 flex-col items-center justify-center gap-1 text-[13px] data-[here=true]:text-railhi data-[here=true]:shadow-[inset_0_3px_var(--provedfill)]';

/** The same pages at the lower edge of a phone, by groups: one of several pages opens as a list. */
export function BottomBar() {
  return (
    <nav aria-label="Pages" className="fixed inset-x-0 bottom-0 z-20 flex bg-rail text-railink md:hidden">
      {[undefined, ...GROUPS, 'Foot' as const].map((group) => {
        const pages = PAGES.filter((page) => page.group === group);
        const [first] = pages;
        if (!first) return null;
        const Icon = group === undefined ? MountainSnow : GROUP_ICONS[group];
        return pages.length === 1 ? (
          <BarLink key={first.path} page={first} icon={<Icon aria-hidden className="size-5" />} />
        ) : (
          <BarGroup
            key={group}
            name={group as string}
            pages={pages}
            icon={<Icon aria-hidden className="size-5" />}
          />
        );
      })}
    </nav>
  );
}

function BarLink({ page, icon }: { page: Page; icon: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <NavLink to={page.path} className={BAR_ITEM} data-here={pathname.startsWith(page.path)}>
      {icon}
      {page.label}
    </NavLink>
  );
}

function BarGroup({ name, pages, icon }: { name: string; pages: readonly Page[]; icon: ReactNode }) {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className={BAR_ITEM}
        data-here={pages.some(({ path }) => pathname.startsWith(path))}
      >
        {icon}
        <span className="flex gap-1">
          {name}
          {pages.some(({ path }) => path === '/messages') && <Unread />}
        </span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          side="top"
          sideOffset={6}
          className="z-40 min-w-40 overflow-hidden rounded-lg border border-edge bg-raise text-ink"
        >
          {pages.map(({ path, label }) => (
            <DropdownMenu.Item
              key={path}
              onSelect={() => void navigate(path)}
              className="flex min-h-12 items-center border-b border-line px-4 last:border-b-0 data-[highlighted]:bg-sheet"
            >
              {label}
              {path === '/messages' && <Unread />}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
