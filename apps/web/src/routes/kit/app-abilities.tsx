import type { Signal, Transport } from '@mistpeak/core/kit/connectors';
import { APP_TASKS, HOST_CLASSES, KEYINGS, type AppFacts, type Opening } from '@mistpeak/core/kit/item';
import { ChecksOf } from './checks';

/** What an app can open: each kind of thing, and the ways by which it may come. */
const OPENS: readonly (readonly [Signal, string, readonly Transport[]])[] = [
  ['KISS', 'Opens KISS over', ['Bluetooth serial', 'Bluetooth LE', 'USB', 'RS-232', 'TCP']],
  ['audio', 'Is a modem itself, at a', ['sound']],
  ['text', 'Opens text over', ['Bluetooth serial', 'USB', 'RS-232']],
  ['modem ports', 'Opens the ports of a modem program over', ['TCP']],
];
/** By which an app may key; the TNC keys by itself. */
const KEYS = KEYINGS.filter((keying) => keying !== 'TNC' && keying !== 'PTT line');

/** What an app does, where it runs, what it opens and how it keys. */
export function AppAbilities({ app, set }: { app: AppFacts; set: (app: AppFacts) => void }) {
  const overOf = (signal: Signal): readonly Transport[] =>
    app.opens.find((one) => one.signal === signal)?.over ?? [];
  return (
    <div className="flex flex-col gap-1.5">
      <ChecksOf legend="What it does" all={APP_TASKS} on={app.does} set={(does) => set({ ...app, does })} />
      <ChecksOf
        legend="Runs on"
        all={HOST_CLASSES}
        on={app.runsOn}
        set={(runsOn) => set({ ...app, runsOn })}
      />
      {OPENS.map(([signal, legend, ways]) => (
        <ChecksOf
          key={signal}
          legend={legend}
          all={ways}
          on={overOf(signal)}
          set={(over) => set({ ...app, opens: opening(app.opens, { signal, over }) })}
        />
      ))}
      {overOf('audio').length > 0 && (
        <ChecksOf legend="Keys by" all={KEYS} on={app.keysBy} set={(keysBy) => set({ ...app, keysBy })} />
      )}
    </div>
  );
}

/** With that opening in the place of the one before; what goes by no way is not opened at all. */
export function opening(opens: readonly Opening[], { signal, over }: Opening): readonly Opening[] {
  const others = opens.filter((one) => one.signal !== signal);
  return over.length === 0 ? others : [...others, { signal, over }];
}
