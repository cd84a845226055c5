import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { kitOfUsual, USUAL_CHAINS } from '@mistpeak/core/chain/usual-chains';
import { ITEM_KINDS, type Item, type ItemKind } from '@mistpeak/core/kit/item';
import { formatKit } from '@mistpeak/core/kit/kit-file';
import { fromLibrary, type LibraryKind } from '@mistpeak/core/kit/library';
import { SWITCHES, type SwitchId } from '@mistpeak/core/kit/switches';
import { command } from '../../api';
import { useAttempt, type Attempt } from '../../live/attempt';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { portWords } from '../../pieces/chain-drawing';
import { PortMarks } from '../../pieces/port-mark';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { saveFile } from '../../pieces/save-file';
import { SearchField } from '../../pieces/search-field';
import { ItemForm } from './item-form';
import { LibraryList } from './library-list';
import { fits } from './search';

const KIND_NAMES: Readonly<Record<ItemKind, string>> = {
  radio: 'Radios',
  interface: 'Interfaces and TNCs',
  cable: 'Cables and adapters',
  antenna: 'Antennas',
  host: 'Phones, tablets, computers',
  app: 'Apps and programs',
};

/** A longer kit is searched. */
const MANY = 12;

/** What do I own, with which ports? */
export function KitPage() {
  const kit = useLive((state) => state.kit);
  const [wanted, setWanted] = useState('');
  const { problem, isBusy, attempt } = useAttempt();
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1>Kit</h1>
        <p className="text-ink2">
          {kit.length <= 1
            ? 'Begin with what you own: take the kinds that come nearest, then change what differs.'
            : `${kit.length} things, by what they can do.`}
        </p>
        <Link
          to="/chain"
          className="ml-auto inline-flex min-h-9 items-center rounded-[7px] border-[1.5px] border-edge bg-raise px-3 py-1 text-[14.5px] font-[620] max-md:ml-0 max-md:min-h-11"
        >
          What can I build?
        </Link>
      </header>
      <OperatorOnly>
        <Tools kit={kit} isBusy={isBusy} attempt={attempt} />
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} detail={problem.fields?.file} />}
      {kit.length > MANY && <SearchField label="Find in my kit" value={wanted} set={setWanted} />}
      <div className="gap-x-8 lg:columns-2">
        {ITEM_KINDS.map((kind) => {
          const items = kit.filter((item) => item.kind === kind && fits(item, wanted));
          return (
            <section
              key={kind}
              aria-label={KIND_NAMES[kind]}
              className="mb-5 min-w-0 border-t-[1.5px] border-ink pt-2 break-inside-avoid"
            >
              <h2>{KIND_NAMES[kind]}</h2>
              {items.length === 0 && (
                <p className="py-1 text-[14px] text-ink2">{wanted === '' ? 'None yet.' : 'None of that.'}</p>
              )}
              <ul>
                {items.map((item) => (
                  <ItemRow key={item.id} item={item} />
                ))}
              </ul>
            </section>
          );
        })}
      </div>
    </div>
  );
}

/** From the library, from a file, to a file. */
function Tools({
  kit,
  isBusy,
  attempt,
}: {
  kit: readonly Item[];
  isBusy: boolean;
  attempt: Attempt['attempt'];
}) {
  const [isOpen, setOpen] = useState(kit.length <= 1);
  const file = useRef<HTMLInputElement>(null);
  const add = (kind: LibraryKind): void =>
    void attempt(() => command('POST', '/kit/items', { item: fromLibrary(kind) }));
  const replace = (json: string): Promise<boolean> => attempt(() => command('PUT', '/kit', { file: json }));
  const read = async (chosen: File | undefined): Promise<void> => {
    if (chosen) await replace(await chosen.text());
    if (file.current) file.current.value = '';
  };
  return (
    <>
      <div className="flex flex-wrap items-end gap-2">
        <Button kind="main" onClick={() => setOpen(!isOpen)} aria-expanded={isOpen}>
          {isOpen ? 'Close the library' : 'Add from the library'}
        </Button>
        <UsualKits replace={(json) => void replace(json)} />
        <span className="flex-1 max-md:hidden" />
        <Button onClick={() => saveFile('kit.json', 'application/json', formatKit(kit))}>
          Save the kit as a file
        </Button>
        <label className="inline-flex min-h-9 cursor-pointer items-center rounded-[7px] border-[1.5px] border-edge bg-raise px-3 py-1 text-[14.5px] font-[620] focus-within:outline-[2.5px] focus-within:outline-proved max-md:min-h-11">
          Read a kit file in place of it
          <input
            ref={file}
            type="file"
            accept="application/json,.json"
            className="sr-only"
            onChange={({ target }) => void read(target.files?.[0])}
          />
        </label>
      </div>
      {isOpen && <LibraryList kindNames={KIND_NAMES} isBusy={isBusy} add={add} />}
    </>
  );
}

/** What whoever builds one of the usual chains owns: a kit to begin with, or to try. */
function UsualKits({ replace }: { replace: (json: string) => void }) {
  return (
    <label className="text-[13.5px] font-[620] max-md:w-full">
      <span className="sr-only">A usual kit in place of it</span>
      <select
        value=""
        onChange={({ target }) => {
          const usual = USUAL_CHAINS.find(({ id }) => id === target.value);
          if (usual) replace(formatKit(kitOfUsual(usual)));
        }}
        className="block min-h-9 w-[19rem] max-w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 font-[400] text-ink max-md:min-h-11 max-md:w-full"
      >
        <option value="">Or a usual kit in place of it …</option>
        {USUAL_CHAINS.map(({ id, what }) => (
          <option key={id} value={id}>
            {what}
          </option>
        ))}
      </select>
    </label>
  );
}

function ItemRow({ item }: { item: Item }) {
  const [isOpen, setOpen] = useState(false);
  const switches = Object.entries(item.switches)
    .filter(([id, now]) => now !== '' && !(id === 'mode' && now === 'FM'))
    .map(([id, now]) => `${SWITCHES[id as SwitchId].name} ${now}`);
  return (
    <li className="border-t border-line py-1.5 first:border-t-0">
      <div className="flex items-baseline gap-3">
        <div className={`min-w-0 flex-1 ${item.isHere ? '' : 'opacity-70'}`}>
          <p className="text-[14.5px] leading-snug font-[640]">
            {item.name}
            {item.version && (
              <span className="font-mono text-[12.5px] font-[400] text-ink2"> {item.version}</span>
            )}
            {!item.isHere && <span className="text-[13px] font-[400] text-ink2"> · not at hand</span>}
          </p>
          <p className="flex flex-wrap items-center gap-x-2 font-mono text-[12.5px] text-ink2">
            <PortMarks ports={item.ports.filter(({ connector }) => connector !== 'open-air')} />
            {portWords(item) || item.about}
          </p>
          {switches.length > 0 && <p className="text-[13px] text-ink2">{switches.join(', ')}</p>}
        </div>
        <button
          type="button"
          onClick={() => setOpen(!isOpen)}
          aria-expanded={isOpen}
          aria-label={`Change ${item.name}`}
          className="rounded-md px-2 text-[13.5px] text-ink2 underline decoration-line underline-offset-4 hover:text-ink max-md:min-h-11"
        >
          {isOpen ? 'Close' : 'Change'}
        </button>
      </div>
      {isOpen && (
        <OperatorOnly>
          <ItemForm item={item} close={() => setOpen(false)} />
        </OperatorOnly>
      )}
    </li>
  );
}
