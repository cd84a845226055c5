import { CHEMISTRIES, usbWattHours, type Chemistry } from '@mistpeak/core/power/battery';
import { useState } from 'react';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { NumberField, SelectField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ChargeLine } from './charge-line';
import { BUS_V, cellsOf12V, type Field, type Written } from './field-settings';
import { outlookInWords, outlookOf } from './field-words';
import { Readings } from './readings';
import { Rows } from './rows';

const EVERY_MS = 30_000;

/** The day as a line from the last known charge to empty, what draws, what was measured. */
export function BatteryPart({ field: { values, set, fromKit } }: { field: Field }) {
  const readings = useLive((state) => state.field.readings);
  const isTold = useLive((state) => state.field.settings !== undefined);
  const nowMs = useNow(EVERY_MS);
  const outlook = outlookOf(values, readings, nowMs);
  const bank = (change: Partial<Written['bank']>): void =>
    set({ ...values, bank: { ...values.bank, ...change } });
  return (
    <div className="grid gap-x-9 gap-y-6 xl:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="flex min-w-0 flex-col gap-5">
        <p role="status" className="max-w-[46rem] text-[19px] leading-snug font-[620]">
          {outlookInWords(outlook, values.bank.chemistry, nowMs)}
        </p>
        {readings.length === 0 && (
          <p className="max-w-[46rem] text-[14px] text-ink2">
            Reckoned from a full battery now: tell what it holds, below, and the line begins there.
          </p>
        )}
        <ChargeLine outlook={outlook} loads={values.loads} bank={values.bank} nowMs={nowMs} />
        <Readings isTold={isTold} bank={values.bank} />
      </div>
      <OperatorOnly>
        <div className="flex flex-col gap-3">
          <h2>The battery</h2>
          <SelectField
            label="Kind"
            hint="Each kind has a voltage of its own at rest, and a charge below which it suffers."
            value={values.bank.chemistry}
            onChange={({ target }) => {
              const chemistry = target.value as Chemistry;
              bank({ chemistry, cells: cellsOf12V(chemistry) });
            }}
          >
            {CHEMISTRIES.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </SelectField>
          <div className="grid grid-cols-2 gap-3">
            <NumberField
              label="Ampere-hours"
              hint="As rated; of lead, at 20 hours."
              value={values.bank.ampHours}
              set={(ampHours) => bank({ ampHours: ampHours ?? NaN })}
            />
            <NumberField
              label="Cells in series"
              hint={`${cellsOf12V(values.bank.chemistry)} make 12 V.`}
              value={values.bank.cells}
              set={(cells) => bank({ cells: cells ?? NaN })}
            />
          </div>
          <Rows
            title="What draws"
            add="Add a load"
            rows={values.loads}
            fresh={{ name: '', amps: 0.5, sharePercent: 100 }}
            columns={[
              { key: 'name', label: 'Load', kind: 'text' },
              { key: 'amps', label: 'A', kind: 'number' },
              { key: 'sharePercent', label: '% of the time', kind: 'number' },
            ]}
            set={(loads) => set({ ...values, loads })}
          />
          <div>
            <Button onClick={() => set({ ...values, loads: fromKit() })}>Take them from the chain</Button>
          </div>
          <h2>Sun</h2>
          <div className="grid grid-cols-2 gap-3">
            <NumberField
              label="Panel, W"
              hint="0: none."
              value={values.panelW}
              set={(panelW) => set({ ...values, panelW: panelW ?? NaN })}
            />
            <NumberField
              label="Sky, %"
              hint="100 clear, 20 overcast."
              value={values.skyPercent}
              set={(skyPercent) => set({ ...values, skyPercent: skyPercent ?? NaN })}
            />
          </div>
          <UsbSupply />
        </div>
      </OperatorOnly>
    </div>
  );
}

/** A USB supply’s label counts its cells, not what comes out. */
function UsbSupply() {
  const [label, setLabel] = useState<number | undefined>(10_000);
  const wattHours = usbWattHours(label ?? 0);
  return (
    <section aria-label="A USB supply">
      <h2>A USB supply</h2>
      <NumberField
        label="On its label, mAh"
        hint={
          Number.isFinite(wattHours)
            ? `Worth ${wattHours.toFixed(1)} Wh at its socket: like ${(wattHours / BUS_V).toFixed(1)} Ah of a 12 V battery.`
            : 'A number of milliampere-hours.'
        }
        value={label}
        set={setLabel}
      />
    </section>
  );
}
