import { isMalformed } from '@mistpeak/core/bits/malformed';
import { BANDS, HOST_CLASSES, type Item } from '@mistpeak/core/kit/item';
import { parseItem } from '@mistpeak/core/kit/kit-file';
import { inFormWords } from '@mistpeak/core/kit/place-words';
import { SWITCHES, type SwitchId } from '@mistpeak/core/kit/switches';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { chainName } from '../../live/saved-chain';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { DraftNote } from '../../pieces/draft-note';
import { differencesOf, ElsewhereNote } from '../../pieces/elsewhere-note';
import { NumberField, SelectField, sentence, TextField } from '../../pieces/field';
import { UsedBy } from '../../pieces/used-by';
import { ProblemNote } from '../../pieces/problem-note';
import { AppAbilities } from './app-abilities';
import { Check, ChecksOf } from './checks';
import { ItemAsJson } from './item-as-json';
import { PortRows } from './port-rows';

/** One item, every field of it. */
export function ItemForm({ item, close }: { item: Item; close: () => void }) {
  const drafted = useDraft<Item>(`item ${item.id}`, item);
  const { values: draft, set: setDraft, elsewhere } = drafted;
  const chains = useLive((state) => state.chains);
  const usedBy = chains.filter(({ parts }) => parts.some(({ id }) => id === item.id));
  const version = useLive((state) => state.kitVersions[item.id]);
  const { problem, isBusy, attempt } = useAttempt();
  const set = (changes: Partial<Item>): void => setDraft({ ...draft, ...changes });
  const read = parseItem(draft);
  const refusal = isMalformed(read) ? read.malformed : undefined;
  const giveUp = (): void => {
    drafted.drop();
    close();
  };
  const run = (task: () => Promise<unknown>): void => void attempt(() => task().then(giveUp));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        run(() => command('PUT', `/kit/items/${item.id}`, { item: draft, version }));
      }}
      noValidate
      className="mt-2 flex flex-col gap-3.5 border-l-[3px] border-edge bg-raise px-4 py-3"
    >
      <div className="grid gap-3 md:grid-cols-2">
        <TextField
          label="Name"
          hint="By what it can do, no brand needed"
          value={draft.name}
          onChange={({ target }) => set({ name: target.value })}
        />
        <TextField
          label="About"
          value={draft.about}
          onChange={({ target }) => set({ about: target.value })}
        />
        <TextField
          label="Version"
          hint="Firmware or program"
          mono
          value={draft.version ?? ''}
          onChange={({ target }) => setDraft(withOptional(draft, 'version', target.value || undefined))}
        />
        <NumberField
          label="Draw, mA"
          hint="From the field battery, at work"
          value={draft.drawMilliamps}
          set={(value) => setDraft(withOptional(draft, 'drawMilliamps', value))}
        />
      </div>
      <Check label="At hand now" isOn={draft.isHere} set={(isHere) => set({ isHere })} />
      <Switches draft={draft} set={set} />
      {draft.kind === 'antenna' && <AntennaFields draft={draft} set={set} />}
      <Abilities draft={draft} set={set} />
      <PortRows ports={draft.ports} set={(ports) => set({ ports })} />
      <ItemAsJson key={JSON.stringify(draft)} item={draft} take={setDraft} />
      {refusal && (
        <p role="alert" className="text-[14px] font-[560] text-stop">
          {sentence(inFormWords(refusal))}
        </p>
      )}
      {elsewhere ? (
        <ElsewhereNote
          differences={differencesOf(flat(draft), flat(elsewhere), labelsOf(draft, elsewhere))}
          keepMine={drafted.keepMine}
          takeOther={drafted.drop}
        />
      ) : (
        drafted.wasBegun && <DraftNote drop={drafted.drop} />
      )}
      {problem && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button
          type="submit"
          kind="main"
          disabled={isBusy || refusal !== undefined || elsewhere !== undefined}
        >
          Save the item
        </Button>
        <Button onClick={giveUp}>Cancel</Button>
        {!item.app?.isMistpeak && (
          <Button kind="stop" onClick={() => run(() => command('DELETE', `/kit/items/${item.id}`))}>
            Remove it from the kit
          </Button>
        )}
        <UsedBy names={usedBy.map(chainName)} />
      </div>
    </form>
  );
}

const LABELS: Readonly<Record<string, string>> = {
  name: 'Name',
  about: 'About',
  version: 'Version',
  drawMilliamps: 'Draw, mA',
  isHere: 'At hand now',
  ports: 'Ports',
  ways: 'Ways through it',
  radio: 'What the radio can do',
  host: 'What it is',
  app: 'What the app can do',
  antenna: 'What the antenna does',
};

/** Each switch for itself, so that the operator sees which differs. */
const flat = ({ switches, ...item }: Item): Readonly<Record<string, unknown>> => ({ ...item, ...switches });

const labelsOf = (...items: readonly Item[]): Readonly<Record<string, string>> => ({
  ...LABELS,
  ...Object.fromEntries(
    items.flatMap(({ switches }) => Object.keys(switches).map((id) => [id, SWITCHES[id as SwitchId].name])),
  ),
});

/** By which Path reckons; an antenna that nobody measured has usual figures. */
function AntennaFields({ draft, set }: { draft: Item; set: (changes: Partial<Item>) => void }) {
  const facts = draft.antenna ?? { gainDbi: 2, heightM: 2, feedLossDb: 0 };
  const change = (more: Partial<typeof facts>): void => set({ antenna: { ...facts, ...more } });
  return (
    <div className="grid gap-3 md:grid-cols-3">
      <NumberField
        label="Gain, dBi"
        hint="−5 at the body, 2 to 4 a vertical"
        value={facts.gainDbi}
        set={(gainDbi = NaN) => change({ gainDbi })}
      />
      <NumberField
        label="Height, m"
        hint="Over the ground, where it is used"
        value={facts.heightM}
        set={(heightM = NaN) => change({ heightM })}
      />
      <NumberField
        label="Feed loss, dB"
        hint="Of the line to it"
        value={facts.feedLossDb}
        set={(feedLossDb = NaN) => change({ feedLossDb })}
      />
    </div>
  );
}

/** A field that is absent rather than empty. */
function withOptional<Name extends 'version' | 'drawMilliamps'>(
  item: Item,
  name: Name,
  value: Item[Name] | undefined,
): Item {
  const { [name]: _old, ...rest } = item;
  return (value === undefined ? rest : { ...rest, [name]: value }) as Item;
}

/** What can be set on it, as it stands now. */
function Switches({ draft, set }: { draft: Item; set: (changes: Partial<Item>) => void }) {
  const ids = Object.keys(draft.switches) as SwitchId[];
  const others = (Object.keys(SWITCHES) as SwitchId[]).filter((id) => !ids.includes(id));
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="pb-1 text-[13.5px] font-[620]">Switches, as they stand now</legend>
      <div className="grid gap-3 md:grid-cols-2">
        {ids.map((id) => {
          const options: readonly string[] = SWITCHES[id].options;
          const now = draft.switches[id] ?? '';
          const choose = (value: string): void => set({ switches: { ...draft.switches, [id]: value } });
          return options.length > 0 ? (
            <SelectField
              key={id}
              label={SWITCHES[id].name}
              hint={SWITCHES[id].about}
              value={now}
              onChange={({ target }) => choose(target.value)}
            >
              {[...new Set([now, ...options])].map((option) => (
                <option key={option} value={option}>
                  {option || 'not known'}
                </option>
              ))}
            </SelectField>
          ) : (
            <TextField
              key={id}
              label={SWITCHES[id].name}
              hint={SWITCHES[id].about}
              value={now}
              onChange={({ target }) => choose(target.value)}
            />
          );
        })}
      </div>
      {others.length > 0 && (
        <select
          aria-label="Add a switch"
          value=""
          onChange={({ target }) =>
            set({
              switches: {
                ...draft.switches,
                [target.value]: SWITCHES[target.value as SwitchId].options[0] ?? '',
              },
            })
          }
          className="w-fit rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 text-[14px] text-ink max-md:min-h-11"
        >
          <option value="" disabled>
            Add a switch …
          </option>
          {others.map((id) => (
            <option key={id} value={id}>
              {SWITCHES[id].name}
            </option>
          ))}
        </select>
      )}
    </fieldset>
  );
}

/** What it can do, by its kind. */
function Abilities({ draft, set }: { draft: Item; set: (changes: Partial<Item>) => void }) {
  const { radio, host, app } = draft;
  if (radio)
    return (
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        <Check
          label="Transmits"
          isOn={radio.transmits}
          set={(transmits) => set({ radio: { ...radio, transmits } })}
        />
        <Check
          label="Sends its own position"
          isOn={radio.hasTracker}
          set={(hasTracker) => set({ radio: { ...radio, hasTracker } })}
        />
        <Check
          label="Has messages on its own screen"
          isOn={radio.hasMessagePage ?? false}
          set={(hasMessagePage) => set({ radio: { ...radio, hasMessagePage } })}
        />
        <ChecksOf
          legend="Bands"
          all={BANDS}
          on={radio.bands}
          set={(bands) => set({ radio: { ...radio, bands } })}
        />
      </div>
    );
  if (host)
    return (
      <div className="grid gap-3 md:grid-cols-2">
        <SelectField
          label="Sort"
          value={host.hostClass}
          onChange={({ target }) =>
            set({ host: { ...host, hostClass: target.value as (typeof HOST_CLASSES)[number] } })
          }
        >
          {HOST_CLASSES.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </SelectField>
        <Check
          label="Has a screen"
          isOn={host.hasScreen}
          set={(hasScreen) => set({ host: { ...host, hasScreen } })}
        />
      </div>
    );
  if (app && !app.isMistpeak) return <AppAbilities app={app} set={(facts) => set({ app: facts })} />;
  return null;
}
