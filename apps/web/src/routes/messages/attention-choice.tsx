import { useState } from 'react';
import { chooseAttention, useAttention, type Attention } from '../../live/attention';
import { useFeedsRadio } from '../../live/sound-at-page';

const CHOICES: readonly (readonly [Attention, string])[] = [
  ['silent', 'title, badge and screen edge only'],
  ['notice', 'a notice of the browser too, without a sound'],
  ['tone', 'a short tone too'],
];

/** Of this device, not of the station: another desk may choose otherwise. */
export function AttentionChoice() {
  const how = useAttention((state) => state.how);
  const feedsRadio = useFeedsRadio();
  const [isRefused, setRefused] = useState(false);
  return (
    <fieldset className="flex flex-col gap-1.5">
      <legend className="text-[1.05rem] font-[650]">Attention at this device</legend>
      {CHOICES.map(([id, label]) => (
        <label key={id} className="flex min-h-8 items-center gap-2.5 text-[14.5px] max-md:min-h-11">
          <input
            type="radio"
            name="attention"
            className="size-4.5"
            checked={how === id}
            onChange={() => void chooseAttention(id).then((isGranted) => setRefused(!isGranted))}
          />
          {label}
        </label>
      ))}
      {isRefused && (
        <p role="alert" className="text-[13.5px] text-stop">
          The browser refuses notices: allow them for this page in its settings, and choose again.
        </p>
      )}
      <p className="text-[13.5px] text-ink2">
        {feedsRadio
          ? 'This device’s sound feeds a radio now: it stays silent, whatever is chosen.'
          : 'Where this device’s sound feeds a radio it stays silent, whatever is chosen.'}
      </p>
    </fieldset>
  );
}
