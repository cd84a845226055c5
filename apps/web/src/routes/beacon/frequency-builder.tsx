import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatVoiceFrequency, parseVoiceFrequency } from '@mistpeak/core/beacon/voice-frequency';
import { CTCSS_TONES_HZ } from '@mistpeak/core/units/tones';
import type { VoiceFrequency } from '@mistpeak/contract/beacon';
import { NumberField, SelectField } from '../../pieces/field';

const SHIFTS_KHZ = [0, -600, 600, -1600, 1600, -5000, 5000, -7600, 7600];

/** Where one listens for voice: frequency, tone and shift; the words are made of them. */
export function FrequencyBuilder({
  text,
  error,
  take,
}: {
  text: string;
  error: string | undefined;
  take: (text: string) => void;
}) {
  const read = parseVoiceFrequency(text);
  const now: VoiceFrequency = read && !isMalformed(read) ? read : {};
  const change = (more: Partial<VoiceFrequency>): void => {
    const { frequencyMHz, toneHz, offsetKHz } = { ...now, ...more };
    if (!frequencyMHz || !(frequencyMHz >= 10 && frequencyMHz < 1000)) return take('');
    take(
      formatVoiceFrequency({
        frequencyMHz,
        ...(toneHz ? { toneHz } : {}),
        ...(offsetKHz ? { offsetKHz } : {}),
      }),
    );
  };
  return (
    <fieldset className="flex flex-col gap-1.5">
      <legend className="text-[13.5px] font-[620]">Voice frequency</legend>
      <div className="grid grid-cols-3 gap-2">
        <NumberField
          label="MHz"
          value={now.frequencyMHz}
          error={error}
          set={(frequencyMHz) => change({ frequencyMHz: frequencyMHz ?? 0 })}
        />
        <SelectField
          label="Tone, Hz"
          value={now.toneHz ?? 0}
          disabled={!now.frequencyMHz}
          onChange={({ target }) => change({ toneHz: Number(target.value) })}
        >
          <option value={0}>none</option>
          {CTCSS_TONES_HZ.map((tone) => (
            <option key={tone} value={tone}>
              {tone.toFixed(1)}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Shift, kHz"
          value={now.offsetKHz ?? 0}
          disabled={!now.frequencyMHz}
          onChange={({ target }) => change({ offsetKHz: Number(target.value) })}
        >
          {[...new Set([...SHIFTS_KHZ, now.offsetKHz ?? 0])].map((shift) => (
            <option key={shift} value={shift}>
              {shift === 0 ? 'none' : shift > 0 ? `+${shift}` : `−${-shift}`}
            </option>
          ))}
        </SelectField>
      </div>
      <p className="text-[13px] text-ink3">
        {text === '' ? (
          'Where you listen, so that others can call you. Empty: none is sent.'
        ) : (
          <>
            Sent as <span className="font-mono">{text}</span>. On the move it goes stale after an hour, or
            after 30 km.
          </>
        )}
      </p>
    </fieldset>
  );
}
