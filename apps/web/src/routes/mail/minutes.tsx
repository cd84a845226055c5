import type { WeightView } from '@mistpeak/contract/mail';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import { SelectField } from '../../pieces/field';
import { octetWords, paceWords, waitWords } from './words';

/** What a letter costs on the air, part by part, against what the operator allows. */
export function Minutes({
  weight,
  desk,
  profileId,
  choose,
}: {
  weight: WeightView | undefined;
  desk: MailDesk;
  profileId: string;
  choose: (id: string) => void;
}) {
  const { mostMinutes, profiles } = desk.settings;
  const limitMs = mostMinutes * 60_000;
  const isTooHeavy = weight !== undefined && weight.ms > limitMs;
  return (
    <aside
      aria-label="What it costs"
      className="flex flex-col gap-3 self-start border-t-[1.5px] border-ink pt-2 lg:sticky lg:top-4"
    >
      <h2>On the air</h2>
      {profiles.length > 0 && (
        <SelectField label="By this way" value={profileId} onChange={({ target }) => choose(target.value)}>
          {profiles.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
      )}
      {weight ? (
        <>
          <p className="text-[32px] leading-none font-[680]" data-testid="minutes">
            {waitWords(weight.ms)}
          </p>
          <p className="text-[14px] text-ink2">
            {octetWords(weight.octets)}, packed {octetWords(weight.packedOctets)}; {paceWords(weight.pace)}.
          </p>
          <Line
            label="This letter"
            ms={weight.ms}
            of={Math.max(limitMs, weight.sessionMs)}
            limitMs={limitMs}
          />
          {weight.files.map(({ name, ms, packedOctets }, i) => (
            <Line
              key={i}
              label={`${name}, ${octetWords(packedOctets)}`}
              ms={ms}
              of={Math.max(limitMs, weight.sessionMs)}
              limitMs={limitMs}
            />
          ))}
          <Line
            label="The session with all that is posted"
            ms={weight.sessionMs}
            of={Math.max(limitMs, weight.sessionMs)}
            limitMs={limitMs}
          />
          {isTooHeavy && (
            <p className="border-l-[3px] border-stop pl-3 text-[14px]">
              That is more than the {mostMinutes} minutes that you allow for a letter: it can be kept as a
              draft and not posted. Make its pictures smaller, or leave a file out.
            </p>
          )}
        </>
      ) : (
        <p className="text-[14px] text-ink2">Being weighed …</p>
      )}
    </aside>
  );
}

function Line({ label, ms, of, limitMs }: { label: string; ms: number; of: number; limitMs: number }) {
  return (
    <div className="text-[13.5px]">
      <p className="flex justify-between gap-2">
        <span className="min-w-0 truncate">{label}</span>
        <span className="font-mono">{waitWords(ms)}</span>
      </p>
      <div className="relative mt-0.5 h-2 bg-line" aria-hidden>
        <div
          className={`h-full ${ms > limitMs ? 'bg-stop' : 'bg-provedfill'}`}
          style={{ width: `${Math.min(100, (100 * ms) / of)}%` }}
        />
        <div
          className="absolute -top-0.5 h-3 w-px bg-ink"
          style={{ left: `${Math.min(100, (100 * limitMs) / of)}%` }}
        />
      </div>
    </div>
  );
}
