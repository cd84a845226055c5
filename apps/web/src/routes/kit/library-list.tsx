import { useState } from 'react';
import { ITEM_KINDS, type ItemKind } from '@mistpeak/core/kit/item';
import { LIBRARY, LIBRARY_KINDS, type LibraryKind } from '@mistpeak/core/kit/library';
import { Button } from '../../pieces/button';
import { PortMarks } from '../../pieces/port-mark';
import { SearchField } from '../../pieces/search-field';
import { fits } from './search';

/** The kinds that a kit can begin from, found by a word of what they are or of a socket. */
export function LibraryList({
  kindNames,
  isBusy,
  add,
}: {
  kindNames: Readonly<Record<ItemKind, string>>;
  /** One is on its way. */
  isBusy: boolean;
  add: (kind: LibraryKind) => void;
}) {
  const [wanted, setWanted] = useState('');
  const found = LIBRARY_KINDS.filter((id) => id !== 'mistpeak' && fits(LIBRARY[id], wanted));
  return (
    <section aria-label="The library" className="border-[1.5px] border-edge bg-sheet px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2>From the library</h2>
        <p className="text-[13.5px] text-ink2">Take what comes nearest, then change what differs.</p>
        <SearchField
          label="Find in the library"
          value={wanted}
          set={setWanted}
          placeholder="a word, a socket"
          className="ml-auto max-md:ml-0"
        />
      </div>
      {found.length === 0 && (
        <p className="py-2 text-[14px] text-ink2">Nothing of that kind; a shorter word finds more.</p>
      )}
      <div
        className="max-h-[22rem] overflow-y-auto max-md:max-h-[50vh]"
        tabIndex={0}
        role="group"
        aria-label="What was found"
      >
        {ITEM_KINDS.map((group) => {
          const kinds = found.filter((id) => LIBRARY[id].kind === group);
          if (kinds.length === 0) return null;
          return (
            <div key={group}>
              <h3 className="pt-2 text-[13px] font-[640] text-ink2">{kindNames[group]}</h3>
              <ul>
                {kinds.map((id) => (
                  <li
                    key={id}
                    className="grid grid-cols-[1fr_auto] items-center gap-x-3 border-t border-line py-1.5 md:grid-cols-[1fr_9rem_auto]"
                  >
                    <span className="min-w-0">
                      <b className="text-[14.5px] font-[640]">{LIBRARY[id].name}</b>
                      <span className="block text-[13px] text-ink2">{LIBRARY[id].about}</span>
                    </span>
                    <span className="max-md:hidden">
                      <PortMarks ports={LIBRARY[id].ports} />
                    </span>
                    <Button disabled={isBusy} onClick={() => add(id)} aria-label={`Add ${LIBRARY[id].name}`}>
                      Add
                    </Button>
                  </li>
                ))}
              </ul>
            </div>
          );
        })}
      </div>
    </section>
  );
}
