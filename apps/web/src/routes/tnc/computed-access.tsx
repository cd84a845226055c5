import { typedNumber } from '@mistpeak/core/units/typed-number';
import { useState } from 'react';
import { accessParameters, USUAL_KEY_UP_MS } from '@mistpeak/core/channel-access/access';
import { KEYINGS, type Keying } from '@mistpeak/core/kit/item';
import type { LinkView } from '@mistpeak/contract/link';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useClimb } from '../../live/climb';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { channelLoad } from '../../pieces/channel-use';
import { SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';

const NAMES = {
  txDelayMs: 'TXDELAY',
  persistence: 'Persistence',
  slotTimeMs: 'Slot time',
  txTailMs: 'Tail',
} as const;
type Name = keyof typeof NAMES;

/** What the keying, the rate and the journal make of the parameters, each with its reckoning. */
export function ComputedAccess({ link }: { link: LinkView }) {
  const chainKeying = useClimb()?.joined?.keying;
  const frames = useLive((state) => state.frames);
  const past = useLive((state) => state.channels.get(link.id));
  const nowMs = useNow(10_000);
  const [keying, setKeying] = useState<Keying>();
  const [keyUp, setKeyUp] = useState('');
  const { problem, attempt } = useAttempt();
  const chosen = keying ?? chainKeying ?? 'TNC';
  const number = typedNumber(keyUp);
  const typed = number >= 0 && number < 10_000 ? Math.round(number) : undefined;
  const isWrong = keyUp.trim() !== '' && typed === undefined;
  const load = channelLoad(frames, past, link, nowMs);
  const wanted = accessParameters(chosen, link.settings.airRate, load, typed);
  const names = Object.keys(NAMES) as Name[];
  const isSame = names.every((name) => Math.abs(wanted[name].value - link.settings[name]) < 1e-9);
  const use = (): void => {
    const values = Object.fromEntries(names.map((name) => [name, wanted[name].value]));
    void attempt(() => command('PUT', `/links/${link.id}`, { ...link.settings, ...values }));
  };
  return (
    <section aria-label="Computed" className="border-t-[1.5px] border-ink pt-2.5">
      <h3 className="text-[1.05rem] font-[650]">What they should be here</h3>
      <div className="grid max-w-[36rem] gap-4 pt-2 md:grid-cols-2">
        <SelectField
          label="Keyed by"
          hint={chainKeying ? 'As in the chain on the Bench' : 'How the radio is made to transmit'}
          value={chosen}
          onChange={({ target }) => setKeying(target.value as Keying)}
        >
          {KEYINGS.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </SelectField>
        <TextField
          label="Key-up time, ms"
          hint={`Until the transmitter is up, if you know it; else ${USUAL_KEY_UP_MS[chosen]}`}
          mono
          inputMode="decimal"
          value={keyUp}
          error={isWrong ? 'milliseconds, below 10 000' : undefined}
          onChange={({ target }) => setKeyUp(target.value)}
        />
      </div>
      <Table columns={['Parameter', 'Now', 'Computed', 'Because']}>
        {names.map((name) => (
          <tr key={name} className="border-t border-line align-baseline">
            <td className="py-1.5 pr-3 whitespace-nowrap">{NAMES[name]}</td>
            <td className="pr-3 font-mono whitespace-nowrap">{shown(name, link.settings[name])}</td>
            <td className="pr-3 font-mono font-[640] whitespace-nowrap">{shown(name, wanted[name].value)}</td>
            <td className="text-[13.5px] text-ink2">{wanted[name].because}.</td>
          </tr>
        ))}
      </Table>
      <div className="pt-3">
        <Button kind="main" disabled={isSame} onClick={use}>
          {isSame ? 'These are in force' : 'Use the computed values'}
        </Button>
      </div>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}

const shown = (name: Name, value: number): string =>
  name === 'persistence' ? value.toFixed(2) : `${Math.round(value)} ms`;
