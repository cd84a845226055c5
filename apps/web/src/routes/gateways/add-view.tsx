import { useMemo, useState } from 'react';
import { useLocation } from 'react-router';
import type { FacilityFacts } from '@mistpeak/core/gateways/facility';
import { heardFacilities } from '@mistpeak/core/gateways/heard';
import { recognise } from '@mistpeak/core/gateways/recognise';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { Directory } from '../../live/directory';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { Candidates } from './candidates';
import { FacilityForm } from './facility-form';
import { ListForm } from './list-form';

/** A letter from which gateways are to be taken, handed over by the page of mail. */
interface FromLetter {
  readonly letter?: { readonly name: string; readonly text: string };
}

/** Into the directory: a file, pasted text, what was heard, a letter, by hand. */
export default function AddView({ directory, operator }: { directory: Directory; operator: OperatorView }) {
  const { letter } = ((useLocation() as { state: unknown }).state ?? {}) as FromLetter;
  const [isByHand, setByHand] = useState(false);
  return (
    <OperatorOnly>
      <div className="flex max-w-[62rem] flex-col gap-6">
        <ListForm directory={directory} />
        <Pasted key={letter?.name ?? ''} letter={letter} />
        <Heard operator={operator} />
        <section
          aria-label="By hand"
          className="flex flex-col items-start gap-2 border-t-[1.5px] border-ink pt-2.5"
        >
          <h2>By hand</h2>
          {isByHand ? (
            <FacilityForm close={() => setByHand(false)} />
          ) : (
            <Button onClick={() => setByHand(true)}>Write one in …</Button>
          )}
        </section>
      </div>
    </OperatorOnly>
  );
}

function Pasted({ letter }: { letter: FromLetter['letter'] }) {
  const [text, setText] = useState(letter?.text ?? '');
  const facts = useMemo(
    () =>
      recognise(text).flatMap(({ call, frequencyMHz, position, line }): FacilityFacts[] =>
        frequencyMHz === undefined
          ? []
          : [
              {
                ...{ kind: 'mail gateway', call, frequencyMHz, mode: '', hours: '' },
                ...(position ? { position } : {}),
                notes: line.slice(0, 200),
              },
            ],
      ),
    [text],
  );
  return (
    <section
      aria-label="Pasted text"
      className="flex flex-col items-start gap-2 border-t-[1.5px] border-ink pt-2.5"
    >
      <h2>{letter ? `From the letter “${letter.name}”` : 'From text'}</h2>
      <label className="w-full text-[13.5px] font-[620]">
        A bulletin, a web page, a letter
        <textarea
          rows={5}
          value={text}
          spellCheck={false}
          onChange={({ target }) => setText(target.value)}
          className="mt-1 block w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono text-[14px] font-[400]"
        />
      </label>
      {text.trim() !== '' && facts.length === 0 && (
        <p className="text-[14px] text-ink2">No call with a frequency beside it is recognised in it.</p>
      )}
      <Candidates
        key={text}
        facts={facts}
        by={letter ? 'mail' : 'paste'}
        name={letter?.name ?? 'pasted'}
        choosesKind
      />
    </section>
  );
}

function Heard({ operator }: { operator: OperatorView }) {
  const stations = useLive((state) => state.stations);
  const nowMs = useNow(30_000);
  const facts = useMemo(
    () => heardFacilities(stations.values(), { nowMs, channelMHz: operator.channelMHz }),
    [stations, nowMs, operator.channelMHz],
  );
  return (
    <section
      aria-label="Heard"
      className="flex flex-col items-start gap-2 border-t-[1.5px] border-ink pt-2.5"
    >
      <h2>Heard: they announce themselves</h2>
      {facts.length === 0 && (
        <p className="text-[14px] text-ink2">Nobody who is heard announces a channel that can be called.</p>
      )}
      <Candidates facts={facts} by="heard" name="" />
    </section>
  );
}
