import { PACKET_KINDS, type PacketFilter, type PacketKind } from '@mistpeak/core/listening/filter';
import { WAYS, type WayKind } from '@mistpeak/core/listening/heard-packet';
import { typedNumber } from '@mistpeak/core/units/typed-number';
import { EXPORT_FORMATS } from '@mistpeak/contract/export-formats';
import { Choice } from '../../pieces/choice';

/** A filter as it stands in its fields. */
export interface WrittenFilter {
  readonly words: string;
  readonly kind: PacketKind | '';
  readonly way: WayKind | '';
  readonly station: string;
  readonly withinKm: string;
  readonly misuse: boolean;
}

export const NO_FILTER: WrittenFilter = {
  words: '',
  kind: '',
  way: '',
  station: '',
  withinKm: '',
  misuse: false,
};

export function filterOf({ words, kind, way, station, withinKm, misuse }: WrittenFilter): PacketFilter {
  const km = typedNumber(withinKm);
  return {
    ...(words.trim() === '' ? {} : { words: words.trim() }),
    ...(kind === '' ? {} : { kinds: [kind] }),
    ...(way === '' ? {} : { ways: [way] }),
    ...(station.trim() === '' ? {} : { station: station.trim() }),
    ...(withinKm.trim() === '' || !(km >= 0) ? {} : { withinKm: km }),
    ...(misuse ? { misuse: true } : {}),
  };
}

export const isNothingAsked = (written: WrittenFilter): boolean =>
  Object.keys(filterOf(written)).length === 0;

/** As the server is asked. */
export function queryOf(written: WrittenFilter): string {
  const { kinds, ways, ...rest } = filterOf(written);
  const query = new URLSearchParams();
  if (kinds) query.set('kinds', kinds.join(','));
  if (ways) query.set('ways', ways.join(','));
  for (const [name, value] of Object.entries(rest)) query.set(name, String(value));
  return query.toString();
}

const FIELD =
  'ml-1 rounded-md border border-edge bg-raise px-2 py-0.5 text-ink placeholder:text-ink3 max-md:min-h-11';

/** What is wanted of the log; what is found goes out as a file. */
export function LogFilter({
  filter,
  set,
  folds,
  setFolds,
}: {
  filter: WrittenFilter;
  set: (filter: WrittenFilter) => void;
  folds: boolean;
  setFolds: (folds: boolean) => void;
}) {
  return (
    <div
      role="group"
      aria-label="Filter"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-6 pb-2 text-[13px] text-ink2 max-md:px-4"
    >
      <label>
        Words
        <input
          type="search"
          value={filter.words}
          onChange={({ target }) => set({ ...filter, words: target.value })}
          placeholder="in all that is kept"
          className={`${FIELD} w-44 font-mono`}
        />
      </label>
      <label>
        Station
        <input
          value={filter.station}
          onChange={({ target }) => set({ ...filter, station: target.value })}
          className={`${FIELD} w-28 font-mono`}
        />
      </label>
      <label>
        Kind
        <select
          value={filter.kind}
          onChange={({ target }) => set({ ...filter, kind: target.value as PacketKind | '' })}
          className={FIELD}
        >
          <option value="">any</option>
          {PACKET_KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </select>
      </label>
      <label>
        Way
        <select
          value={filter.way}
          onChange={({ target }) => set({ ...filter, way: target.value as WayKind | '' })}
          className={FIELD}
        >
          <option value="">any</option>
          {WAYS.map((way) => (
            <option key={way}>{way}</option>
          ))}
        </select>
      </label>
      <label>
        Within, km
        <input
          inputMode="decimal"
          value={filter.withinKm}
          onChange={({ target }) => set({ ...filter, withinKm: target.value })}
          className={`${FIELD} w-16 font-mono`}
        />
      </label>
      <Choice label="against the rules" isOn={filter.misuse} set={(misuse) => set({ ...filter, misuse })} />
      <Choice label="fold copies" isOn={folds} set={setFolds} />
      <label>
        Save as
        <select
          value=""
          onChange={({ target }) => {
            location.assign(`/api/v1/record/export/${target.value}?${queryOf(filter)}`);
          }}
          className={FIELD}
        >
          <option value="">…</option>
          {Object.entries(EXPORT_FORMATS).map(([format, { words }]) => (
            <option key={format} value={format}>
              {words}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}
