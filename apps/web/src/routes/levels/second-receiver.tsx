import { useEffect, useState } from 'react';
import { USUAL_SOUND_SETUP } from '@mistpeak/contract/sound';
import { listSoundDevices, type SoundDevice } from '../../adapters/sound/sound-card';
import { SECOND_RECEIVER } from '../../live/sound-at-page';
import { Button } from '../../pieces/button';
import { SelectField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';
import { SoundFigures } from './sound-figures';

/** A second radio, tuned to the same channel, that hears what is sent: another input of this browser. */
export function SecondReceiver() {
  const { phase, trouble, name } = SECOND_RECEIVER.use();
  const [inputs, setInputs] = useState<readonly SoundDevice[]>([]);
  const [input, setInput] = useState('');
  useEffect(() => {
    void listSoundDevices().then(
      (all) => setInputs(all.inputs),
      () => undefined,
    );
  }, [phase]);
  return (
    <div className="flex flex-col gap-2 border-l-[3px] border-line pl-3">
      <p className="text-[14px] text-ink2">
        A second receiver on the same channel judges what you send: the microphone of this device before its
        speaker will do. Squelch open, volume low.
      </p>
      {phase === 'listening' ? (
        <>
          <SoundFigures receiver={SECOND_RECEIVER} />
          <p className="flex items-center gap-2 text-[13.5px] text-ink2">
            {name} <Button onClick={() => SECOND_RECEIVER.stop()}>Stop it</Button>
          </p>
        </>
      ) : (
        <div className="grid grid-cols-[1fr_auto] items-end gap-2">
          <SelectField
            label="Its sound comes from"
            value={input}
            onChange={({ target }) => setInput(target.value)}
          >
            <option value="">the usual input</option>
            {inputs.map(({ id, label }) => (
              <option key={id} value={label}>
                {label}
              </option>
            ))}
          </SelectField>
          <Button
            className="mb-1"
            onClick={() =>
              void SECOND_RECEIVER.listen({
                ...USUAL_SOUND_SETUP,
                hears: 'mix',
                ...(input && { input }),
              }).catch(() => undefined)
            }
          >
            Listen with it
          </Button>
        </div>
      )}
      {trouble && <ProblemNote problem={trouble} />}
    </div>
  );
}
