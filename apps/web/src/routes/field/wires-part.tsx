import { atTheRadio, fuseFor, gaugeArea, isolationOf, type DropVerdict } from '@mistpeak/core/power/wires';
import type { WireSettings } from '@mistpeak/contract/field';
import { useState } from 'react';
import { NumberField, SelectField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { Table } from '../../pieces/table';
import type { Field } from './field-settings';
import { Rows } from './rows';

const RESTED_V = 12.4;
const GAUGES = [18, 16, 14, 12, 10, 8, 6, 4];
const VERDICTS: Readonly<Record<DropVerdict, string>> = {
  good: 'good',
  much: 'works, but warms the wire: thicker or shorter',
  'too much': 'too low: the set gives less, switches off or distorts',
};

/** Drop, fuse and isolation: what each wire does while the transmitter is keyed. */
export function WiresPart({ field: { values, set } }: { field: Field }) {
  const { wires } = values;
  return (
    <div className="grid gap-x-9 gap-y-6 xl:grid-cols-[minmax(0,1fr)_26rem]">
      <div className="flex min-w-0 flex-col gap-5">
        <p role="status" className="max-w-[46rem] text-[19px] leading-snug font-[620]">
          {wiresInWords(wires)}
        </p>
        <WirePlan wires={wires} />
        {wires.length > 0 && (
          <Table columns={['Wire', 'Lost on both conductors', 'At its end, keyed', 'Fuse', 'So']} stacks>
            {wires.map((wire, at) => {
              const { volts, verdict } = atTheRadio(RESTED_V, wire);
              return (
                <tr key={at} className="border-t border-line align-baseline">
                  <th scope="row" className="py-1.5 pr-3 font-[560]">
                    {wire.name || 'a wire'}
                  </th>
                  <td className="py-1.5 pr-3 font-mono">{(RESTED_V - volts).toFixed(2)} V</td>
                  <td className="py-1.5 pr-3 font-mono">
                    {volts.toFixed(2)} of {RESTED_V} V
                  </td>
                  <td className="py-1.5 pr-3">{fuseInWords(wire)}</td>
                  <td className={`py-1.5 ${verdict === 'good' ? 'text-proved' : 'font-[600] text-look'}`}>
                    {VERDICTS[verdict]}
                  </td>
                </tr>
              );
            })}
          </Table>
        )}
        <ul className="max-w-[46rem] list-disc pl-5 text-[14px] text-ink2">
          <li>
            A fuse at both ends of a long run, as close to the battery as it goes, and one at each outlet.
          </li>
          <li>
            Each above what is drawn and not above what its wire carries; never a stronger one in its place.
          </li>
          <li>Battery strapped down and ventilated; nothing metal can fall across the posts.</li>
          <li>The figures are for copper at 20 °C and free air: bundled or hot wires carry less.</li>
        </ul>
        <Isolation />
      </div>
      <OperatorOnly>
        <div className="flex flex-col gap-3">
          <Rows
            title="Wires"
            add="Add a wire"
            rows={wires}
            fresh={{ name: '', oneWayM: 2, areaMm2: 2.5, amps: 5 }}
            columns={[
              { key: 'name', label: 'To', kind: 'text' },
              { key: 'oneWayM', label: 'one way, m', kind: 'number' },
              { key: 'areaMm2', label: 'mm²', kind: 'number' },
              { key: 'amps', label: 'A, keyed', kind: 'number' },
            ]}
            set={(rows) => set({ ...values, wires: rows })}
          />
          <Gauges />
        </div>
      </OperatorOnly>
    </div>
  );
}

const isWhole = ({ oneWayM, areaMm2, amps }: WireSettings): boolean =>
  [oneWayM, areaMm2, amps].every((value) => Number.isFinite(value)) && areaMm2 > 0;

export function wiresInWords(wires: readonly WireSettings[]): string {
  if (wires.length === 0) return 'No wire is told yet.';
  if (!wires.every(isWhole)) return 'A wire lacks a number.';
  const unfused = wires.filter(({ amps, areaMm2 }) => fuseFor(amps, areaMm2).fuse === undefined);
  const low = wires.filter((wire) => atTheRadio(RESTED_V, wire).verdict === 'too much');
  const names = (of: readonly WireSettings[]): string => of.map(({ name }) => `“${name}”`).join(', ');
  if (unfused.length > 0)
    return `No fuse fits ${names(unfused)}: a wire that thin does not carry what is drawn.`;
  if (low.length > 0) return `On ${names(low)} too little arrives while it transmits.`;
  return wires.length === 1 ? 'The wire holds.' : `All ${wires.length} wires hold.`;
}

export function fuseInWords({ amps, areaMm2 }: WireSettings): string {
  const { fuse, wireAmps, wireMm2 } = fuseFor(amps, areaMm2);
  if (fuse !== undefined) return `${fuse} A (the wire carries ${wireAmps} A)`;
  return wireMm2 === undefined
    ? `none: ${amps} A are more than a blade fuse is made for`
    : `none fits: from ${wireMm2} mm² on`;
}

/** The plan as drawn: battery, a fuse at each end, what it feeds. */
function WirePlan({ wires }: { wires: readonly WireSettings[] }) {
  const drawn = wires.filter(isWhole);
  if (drawn.length === 0) return null;
  const longest = Math.max(...drawn.map(({ oneWayM }) => oneWayM));
  const height = 34 * drawn.length + 20;
  return (
    <svg
      viewBox={`0 0 640 ${height}`}
      role="img"
      aria-label="The wires from the battery, each with its fuses"
      className="w-full max-w-[46rem]"
    >
      <rect x="8" y="10" width="70" height={height - 20} fill="var(--sheet)" stroke="var(--ink)" />
      <text x="43" y={height / 2 + 4} textAnchor="middle" fontSize="13" fill="var(--ink)">
        battery
      </text>
      {drawn.map(({ name, oneWayM, areaMm2, amps }, at) => {
        const y = 27 + 34 * at;
        const end = 170 + (240 * oneWayM) / longest;
        const { fuse } = fuseFor(amps, areaMm2);
        const colour = fuse === undefined ? 'var(--stop)' : 'var(--ink)';
        return (
          <g key={at} stroke={colour} fill="none">
            <line x1="78" y1={y} x2={end} y2={y} strokeWidth={Math.min(6, 1 + areaMm2 / 4)} />
            {[96, end - 34].map((x) => (
              <rect key={x} x={x} y={y - 6} width="26" height="12" fill="var(--paper)" strokeWidth="1.5" />
            ))}
            <text x={end + 8} y={y + 4} fontSize="13" fill="var(--ink)" stroke="none">
              {name}, {oneWayM} m, {areaMm2} mm², {fuse === undefined ? 'no fuse fits' : `${fuse} A`}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

function Gauges() {
  return (
    <details className="text-[13.5px] text-ink2">
      <summary className="cursor-pointer max-md:min-h-11">American gauges in mm²</summary>
      <p className="font-mono text-[13px]">
        {GAUGES.map((gauge) => `${gauge}: ${gaugeArea(gauge).toFixed(1)}`).join(' · ')}
      </p>
    </details>
  );
}

/** Two voltages, one after the other, tell whether the radio can empty the battery that starts the engine. */
function Isolation() {
  const [starterV, setStarter] = useState<number>();
  const [equipmentV, setEquipment] = useState<number>();
  const [isEngineOff, setEngineOff] = useState(true);
  const isAsked = Number.isFinite(starterV) && Number.isFinite(equipmentV);
  const told = isAsked
    ? isolationOf({ starterV: starterV as number, equipmentV: equipmentV as number, isEngineOff })
    : undefined;
  return (
    <section aria-label="Starter and equipment battery" className="max-w-[46rem]">
      <h2>Starter and equipment battery apart?</h2>
      <p className="text-[14px] text-ink2">
        Measured, not believed: engine off, the radio on for a while, then both voltages one after the other.
      </p>
      <div className="grid gap-3 pt-2 md:grid-cols-3">
        <NumberField label="Starter battery, V" value={starterV} set={setStarter} />
        <NumberField label="Equipment battery, V" value={equipmentV} set={setEquipment} />
        <SelectField
          label="Engine"
          value={isEngineOff ? 'off' : 'on'}
          onChange={({ target }) => setEngineOff(target.value === 'off')}
        >
          <option>off</option>
          <option>on</option>
        </SelectField>
      </div>
      {told && (
        <p role="status" className="pt-2 font-[620]">
          {told.kind === 'apart'
            ? 'Apart: what the radio draws leaves the starter alone.'
            : told.kind === 'joined'
              ? `Not proved: ${told.why}.`
              : `It does not tell: ${told.why}.`}
        </p>
      )}
    </section>
  );
}
