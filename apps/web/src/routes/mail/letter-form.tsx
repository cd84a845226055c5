import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { KeepLetter, LetterFile, MailMessageView, WeightView } from '@mistpeak/contract/mail';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import { PRECEDENCES, type Precedence } from '@mistpeak/core/mail/proposal';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useAddresses } from '../../live/mail-desk';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { DraftNote } from '../../pieces/draft-note';
import { SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { LetterFiles } from './letter-files-field';
import { Minutes } from './minutes';

export interface Written {
  readonly to: string;
  readonly cc: string;
  readonly subject: string;
  readonly text: string;
  readonly files: readonly LetterFile[];
  readonly beyondLatin1: KeepLetter['beyondLatin1'];
  readonly precedence: Precedence;
  readonly onlyInternet: boolean;
  /** `YYYY-MM-DDTHH:MM`, UTC; empty: at once. */
  readonly after: string;
  readonly from: string;
}

const addressesIn = (text: string): string[] =>
  text
    .split(/[,;\s]+/)
    .map((one) => one.trim())
    .filter((one) => one !== '');

const WEIGHED_AFTER_MS = 500;

/** One letter, and beside it what it costs on the air before anything is sent. */
export function LetterForm({
  draft,
  desk,
  saved,
  known,
  answers,
}: {
  draft: string;
  desk: MailDesk;
  saved: Written;
  known: MailMessageView | undefined;
  answers: string | undefined;
}) {
  const { values, set, wasBegun, drop } = useDraft<Written>(draft, saved);
  const { problem, isBusy, attempt } = useAttempt();
  const [profileId, setProfileId] = useState(desk.settings.profiles[0]?.id ?? '');
  const navigate = useNavigate();
  const addresses = useAddresses();
  const change = (more: Partial<Written>): void => set({ ...values, ...more });
  const body = bodyOf(values, answers);
  const weight = useWeight(body, profileId);
  const [to, cc] = [addressesIn(values.to), addressesIn(values.cc)];
  const keep = (box: KeepLetter['box']): Promise<boolean> =>
    attempt(async () => {
      const letter = { ...body, box };
      if (known) await command('PUT', `/mail/messages/${known.id}`, { ...letter, version: known.version });
      else await command('POST', '/mail/messages', letter);
      drop();
      void navigate('/mail/satchel');
    });
  const fields = problem?.fields ?? {};
  return (
    <OperatorOnly>
      <form
        aria-label="Letter"
        noValidate
        className="grid gap-x-9 gap-y-5 lg:grid-cols-[minmax(0,1fr)_21rem]"
        onSubmit={(event) => {
          event.preventDefault();
          void keep('outbox');
        }}
      >
        <div className="flex min-w-0 flex-col gap-3">
          {wasBegun && <DraftNote drop={drop} />}
          <TextField
            label="To"
            list="mail-addresses"
            autoCapitalize="off"
            autoCorrect="off"
            hint="calls, or addresses of the internet; several with commas"
            value={values.to}
            error={fields.to ?? troublesOf(to, weight)}
            onChange={({ target }) => change({ to: target.value })}
          />
          <Doubts
            of={[...to, ...cc]}
            weight={weight}
            take={(wrong, right) =>
              change({ to: values.to.replace(wrong, right), cc: values.cc.replace(wrong, right) })
            }
          />
          <TextField
            label="Copy to"
            autoCapitalize="off"
            autoCorrect="off"
            value={values.cc}
            error={fields.cc ?? troublesOf(cc, weight)}
            onChange={({ target }) => change({ cc: target.value })}
          />
          <datalist id="mail-addresses">
            {addresses.map(({ address }) => (
              <option key={address} value={address.replace(/^SMTP:/i, '')} />
            ))}
          </datalist>
          <TextField
            label="Subject"
            value={values.subject}
            error={fields.subject}
            onChange={({ target }) => change({ subject: target.value })}
          />
          <label className="flex flex-col gap-1 text-[13.5px] font-[620]">
            Text
            <textarea
              rows={8}
              value={values.text}
              onChange={({ target }) => change({ text: target.value })}
              className="rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-2 text-[15px] font-[400]"
            />
          </label>
          {weight && weight.beyondLatin1.length > 0 && (
            <SelectField
              label={`${weight.beyondLatin1.slice(0, 8).join(' ')} ${weight.beyondLatin1.length === 1 ? 'is' : 'are'} not among the letters of radio mail (ISO 8859-1)`}
              value={values.beyondLatin1}
              hint="old programs show UTF-8 as two odd signs for each"
              onChange={({ target }) => change({ beyondLatin1: target.value as Written['beyondLatin1'] })}
            >
              <option value="utf-8">send the text as UTF-8, declared</option>
              <option value="question marks">send a question mark for each</option>
            </SelectField>
          )}
          <LetterFiles files={values.files} weight={weight} set={(files) => change({ files })} />
          <details className="text-[14px]">
            <summary className="cursor-pointer py-1 text-ink2">When, how urgent, and as whom</summary>
            <div className="grid gap-3 pt-2 sm:grid-cols-3">
              <SelectField
                label="Precedence"
                value={values.precedence}
                hint="the urgent go first, then the small ones"
                onChange={({ target }) => change({ precedence: target.value as Precedence })}
              >
                {PRECEDENCES.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </SelectField>
              <TextField
                label="Not before, UTC"
                type="datetime-local"
                value={values.after}
                onChange={({ target }) => change({ after: target.value })}
              />
              <SelectField
                label="From"
                value={values.from || (desk.ownAddresses[0] ?? '')}
                onChange={({ target }) => change({ from: target.value })}
              >
                {desk.ownAddresses.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </SelectField>
            </div>
            <Choice
              label="Only over the internet: it never goes by radio"
              isOn={values.onlyInternet}
              set={(onlyInternet) => change({ onlyInternet })}
            />
          </details>
          {problem && <ProblemNote problem={problem} detail={Object.values(fields).join('; ')} />}
          <div className="flex flex-wrap gap-3">
            <Button type="submit" kind="main" disabled={isBusy}>
              Post it
            </Button>
            <Button disabled={isBusy} onClick={() => void keep('drafts')}>
              Keep as a draft
            </Button>
            {known && <Remove id={known.id} done={drop} />}
          </div>
          <p className="text-[13px] text-ink3">
            Posting sends nothing: it waits in the satchel until the next session. Whoever listens can read
            it.
          </p>
        </div>
        <Minutes weight={weight} desk={desk} profileId={profileId} choose={setProfileId} />
      </form>
    </OperatorOnly>
  );
}

function Remove({ id, done }: { id: string; done: () => void }) {
  const { attempt, isBusy } = useAttempt();
  const navigate = useNavigate();
  return (
    <Button
      kind="stop"
      disabled={isBusy}
      onClick={() =>
        void attempt(async () => {
          await command('DELETE', `/mail/messages/${id}`);
          done();
          void navigate('/mail/satchel');
        })
      }
    >
      Remove it
    </Button>
  );
}

/** As the server takes it. */
function bodyOf(
  { to, cc, after, from, files, ...rest }: Written,
  answers: string | undefined,
): Omit<KeepLetter, 'box'> {
  const afterMs = after === '' ? NaN : Date.parse(`${after}:00Z`);
  return {
    ...rest,
    to: addressesIn(to),
    cc: addressesIn(cc),
    files: [...files],
    ...(Number.isNaN(afterMs) ? {} : { afterMs }),
    ...(from === '' ? {} : { from }),
    ...(answers === undefined ? {} : { answers }),
  };
}

function useWeight(letter: object, profileId: string): WeightView | undefined {
  const [weight, setWeight] = useState<WeightView>();
  const asked = JSON.stringify({ ...letter, ...(profileId === '' ? {} : { profileId }) });
  useEffect(() => {
    let isStill = true;
    const timer = setTimeout(() => {
      command<WeightView>('POST', '/mail/weigh', JSON.parse(asked) as object)
        .then((found) => isStill && setWeight(found))
        .catch(() => undefined);
    }, WEIGHED_AFTER_MS);
    return () => {
      isStill = false;
      clearTimeout(timer);
    };
  }, [asked]);
  return weight;
}

const troublesOf = (typed: readonly string[], weight: WeightView | undefined): string | undefined => {
  const troubles = typed.flatMap((one) => weight?.addresses[one]?.trouble ?? []);
  return troubles.length > 0 ? troubles.join('; ') : undefined;
};

function Doubts({
  of: typed,
  weight,
  take,
}: {
  of: readonly string[];
  weight: WeightView | undefined;
  take: (wrong: string, right: string) => void;
}) {
  const doubts = typed.flatMap((one) => {
    const { doubt, meant, trouble } = weight?.addresses[one] ?? {};
    if (trouble?.includes('TEST'))
      return [{ one, words: 'To try the way there and back:', offers: ['TEST'] }];
    if (meant) return [{ one, words: `${one.toUpperCase()} is not known here. Perhaps:`, offers: meant }];
    return doubt === undefined ? [] : [{ one, words: doubt, offers: [] as string[] }];
  });
  if (doubts.length === 0) return null;
  return (
    <ul className="text-[14px] text-look">
      {doubts.map(({ one, words, offers }) => (
        <li key={one} className="flex flex-wrap items-baseline gap-2">
          {words}
          {offers.map((offer) => (
            <Button key={offer} onClick={() => take(one, offer)}>
              {offer}
            </Button>
          ))}
        </li>
      ))}
    </ul>
  );
}
