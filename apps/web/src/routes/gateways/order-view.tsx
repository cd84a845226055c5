import { useMemo, useState } from 'react';
import { FACILITY_KINDS, facilityKey, type FacilityKind } from '@mistpeak/core/gateways/facility';
import type { Ranked } from '@mistpeak/core/gateways/rank';
import { formatPlace } from '@mistpeak/core/geo/place';
import type { Position } from '@mistpeak/core/geo/position';
import type { OperatorView } from '@mistpeak/contract/operator';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import type { Directory } from '../../live/directory';
import { useNow } from '../../live/now';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { SelectField, TextField } from '../../pieces/field';
import MarkedMap from '../../pieces/map/marked-map';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { SearchField } from '../../pieces/search-field';
import { FacilityForm } from './facility-form';
import { Facts } from './facts';
import { squareTest, TYPED, useFromWhere, type FromWhere } from './from-where';
import { chanceInWords, firstInWords, orderOf, useGround, wayInWords } from './order';
import { ReportForm } from './report-form';
import { Rose } from './rose';
import { TryList } from './try-list';

const SHOWN = 25;

/** Which, in what order, from here? */
export default function OrderView({ directory, operator }: { directory: Directory; operator: OperatorView }) {
  const from = useFromWhere(operator);
  const nowMs = useNow(60_000);
  const [kind, setKind] = useState<FacilityKind | ''>('');
  const [words, setWords] = useState('');
  const [isNearOnly, setNearOnly] = useState(false);
  const [open, setOpen] = useState<string>();
  const [shown, setShown] = useState(SHOWN);
  const [picked, setPicked] = useState<readonly string[]>([]);
  const ground = useGround(directory.facilities, from.position);
  const ranked = useMemo(() => {
    if (!from.position) return [];
    const isNear = isNearOnly && from.square !== undefined ? squareTest(from.square) : undefined;
    return orderOf(directory, { kind, words, isNear }, { from: from.position, nowMs, ground: ground.ways });
  }, [directory, from, kind, words, isNearOnly, nowMs, ground]);
  const chosen =
    picked.length > 0
      ? ranked.filter(({ facility }) => picked.includes(facilityKey(facility)))
      : ranked.slice(0, 5);
  return (
    <div className="flex flex-col gap-4">
      <p role="status" className="max-w-[60rem] text-[19px] leading-snug font-[620]">
        {from.position
          ? firstInWords(ranked, operator.units)
          : 'Say from where: enter your place in Settings, or choose one here.'}
      </p>
      <div className="grid gap-x-9 gap-y-5 lg:grid-cols-[27.5rem_minmax(0,1fr)] print:block">
        <div className="flex flex-col gap-3 print:hidden">
          <Rose
            ranked={ranked}
            ground={ground.ways}
            units={operator.units}
            chosen={open}
            choose={(key) => setOpen(key === open ? undefined : key)}
          />
          <p className="text-[13px] text-ink3">
            {ground.share !== undefined
              ? 'Looking over the ground …'
              : ground.isKnown
                ? 'Beside each bearing the ground towards it; amber: where it stands in the way. Filled: answered before; cross: silent so far.'
                : 'No elevation is known here: the order goes by tries and distance.'}
          </p>
          <Where from={from} operator={operator} isNearOnly={isNearOnly} setNearOnly={setNearOnly} />
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <div className="flex flex-wrap items-end gap-4 print:hidden">
            <div className="w-44">
              <SelectField
                label="What"
                value={kind}
                onChange={({ target }) => setKind(target.value as FacilityKind | '')}
              >
                <option value="">all of them</option>
                {FACILITY_KINDS.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </SelectField>
            </div>
            <SearchField
              isAmongFields
              label="With"
              value={words}
              set={setWords}
              placeholder="call, frequency, word"
            />
          </div>
          <ol aria-label="In the order to call">
            {ranked.slice(0, shown).map((one, i) => {
              const key = facilityKey(one.facility);
              return (
                <li key={key} className="border-t border-line py-2 print:break-inside-avoid">
                  <Line
                    one={one}
                    number={i + 1}
                    operator={operator}
                    isOpen={open === key}
                    toggle={() => setOpen(open === key ? undefined : key)}
                    isPicked={picked.includes(key)}
                    pick={(isOn) =>
                      setPicked(isOn ? [...picked, key] : picked.filter((other) => other !== key))
                    }
                  />
                  {open === key && from.position && (
                    <Opened one={one} directory={directory} here={from.position} nowMs={nowMs} />
                  )}
                </li>
              );
            })}
          </ol>
          {ranked.length === 0 && directory.facilities.length > 0 && (
            <p className="text-[14px] text-ink2">None of {directory.facilities.length} fits.</p>
          )}
          {ranked.length > shown && (
            <Button className="self-start print:hidden" onClick={() => setShown(shown + 100)}>
              {ranked.length - shown} more
            </Button>
          )}
          <TryList chosen={chosen} isPicked={picked.length > 0} operator={operator} />
        </div>
      </div>
    </div>
  );
}

function Where({
  from,
  operator,
  isNearOnly,
  setNearOnly,
}: {
  from: FromWhere;
  operator: OperatorView;
  isNearOnly: boolean;
  setNearOnly: (isOn: boolean) => void;
}) {
  const [isMapOpen, openMap] = useState(false);
  const marks = useMemo(
    () =>
      from.position ? [{ id: 'me', label: 'from here', position: from.position, kind: 'me' as const }] : [],
    [from.position],
  );
  return (
    <section aria-label="From where" className="flex flex-col gap-2 border-t-[1.5px] border-ink pt-2.5">
      <SelectField label="From" value={from.chosen} onChange={({ target }) => from.choose(target.value)}>
        {from.choices.map(({ id, words }) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </SelectField>
      {from.chosen === TYPED && (
        <TextField
          label="That place"
          mono
          hint="coordinates or a locator, or press on the map"
          value={from.typed}
          error={from.wrong}
          onChange={({ target }) => from.type(target.value)}
        />
      )}
      {from.square !== undefined && (
        <Choice
          label={`Only in ${from.square} and the squares round it`}
          isOn={isNearOnly}
          set={setNearOnly}
        />
      )}
      <Button className="self-start" aria-expanded={isMapOpen} onClick={() => openMap(!isMapOpen)}>
        {isMapOpen ? 'Put the map away' : 'Choose on the map'}
      </Button>
      {isMapOpen && (
        <MarkedMap
          label="Map: press where the order is to be reckoned from."
          operator={operator}
          centre={from.position ?? { latitudeDeg: 0, longitudeDeg: 0 }}
          marks={marks}
          pick={(position) => from.type(formatPlace(position))}
        />
      )}
    </section>
  );
}

function Line({
  one,
  number,
  operator,
  isOpen,
  toggle,
  isPicked,
  pick,
}: {
  one: Ranked;
  number: number;
  operator: OperatorView;
  isOpen: boolean;
  toggle: () => void;
  isPicked: boolean;
  pick: (isOn: boolean) => void;
}) {
  const { facility, bearingDeg, bestHour } = one;
  return (
    <div className="grid grid-cols-[2.2rem_1.6rem_minmax(0,1fr)] items-baseline gap-x-1 max-md:grid-cols-[2rem_2.2rem_minmax(0,1fr)]">
      <span className="font-mono text-[15px] text-ink3">{number}</span>
      <input
        type="checkbox"
        aria-label={`Put ${facility.call} on ${facility.frequencyMHz} MHz on the try list`}
        className="size-4.5 self-center print:hidden"
        checked={isPicked}
        onChange={({ target }) => pick(target.checked)}
      />
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={toggle}
        className="min-w-0 text-left max-md:min-h-11"
      >
        <span className="flex flex-wrap items-baseline gap-x-4">
          <b className="font-mono text-[16px] font-[640]">{facility.call}</b>
          <span className="font-mono text-[16px]">{facility.frequencyMHz.toFixed(3)}</span>
          <span className="font-mono text-[13.5px] text-ink2">
            {bearingDeg === undefined
              ? 'place not known'
              : `${String(Math.round(bearingDeg)).padStart(3, '0')}° ${wayInWords(one, operator.units)}`}
          </span>
          <span
            className={`ml-auto text-[14px] font-[620] ${one.chance >= 0.7 ? 'text-proved' : one.chance >= 0.3 ? 'text-ink2' : 'text-look'}`}
          >
            {chanceInWords(one.chance)} <span className="font-mono">{Math.round(one.chance * 100)} %</span>
          </span>
        </span>
        <span className="block text-[14px] text-ink2">
          {facility.kind}
          {facility.mode && `, ${facility.mode}`}; {one.why}
          {bestHour === undefined ? '' : `; best at ${String(bestHour).padStart(2, '0')} o’clock`}
          {facility.hours && `; hours ${facility.hours}`}
          {facility.toneHz === undefined ? '' : `; tone ${facility.toneHz} Hz`}
          {facility.shiftMHz === undefined ? '' : `; shift ${facility.shiftMHz} MHz`}
        </span>
      </button>
    </div>
  );
}

function Opened({
  one,
  directory,
  here,
  nowMs,
}: {
  one: Ranked;
  directory: Directory;
  here: Position;
  nowMs: number;
}) {
  const { facility } = one;
  const [doing, setDoing] = useState<'change' | 'report'>();
  const { problem, attempt } = useAttempt();
  const close = (): void => setDoing(undefined);
  if (doing === 'change') return <FacilityForm facility={facility} close={close} />;
  return (
    <Facts facility={facility} directory={directory} here={here} nowMs={nowMs}>
      <OperatorOnly>
        {doing === 'report' ? (
          <ReportForm call={facility.call} from={here} close={close} />
        ) : (
          <>
            <Button onClick={() => setDoing('report')}>Note a try …</Button>
            <Button onClick={() => setDoing('change')}>Change …</Button>
            <Button
              kind="stop"
              onClick={() =>
                void attempt(() =>
                  command('DELETE', `/gateways/facilities/${encodeURIComponent(facilityKey(facility))}`),
                )
              }
            >
              Remove it
            </Button>
          </>
        )}
        {problem && <ProblemNote problem={problem} />}
      </OperatorOnly>
    </Facts>
  );
}
