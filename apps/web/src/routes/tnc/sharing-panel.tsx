import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useWatch } from 'react-hook-form';
import { failureText } from '@mistpeak/contract/failures';
import type { LinkView } from '@mistpeak/contract/link';
import { SharingSettings, NOT_SHARED, type SharingView } from '@mistpeak/contract/sharing';
import { command } from '../../api';
import { AS_NUMBER } from '../../forms/as-number';
import { useAttempt } from '../../live/attempt';
import { useDraftedForm } from '../../live/drafted-form';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { DraftedNotes } from '../../pieces/drafted-notes';
import { SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';
import { ToneMark } from '../../pieces/tone-mark';
import { SharingClients } from './sharing-clients';

/** Lends the linked TNC to other programs, and shows who is there. */
export function SharingPanel({ link }: { link: LinkView }) {
  const sharing = useLive((state) => state.sharing.get(link.id));
  const isOn = sharing?.settings.isOn === true;
  return (
    <section aria-label="Sharing" className="border-t-[1.5px] border-ink pt-2.5">
      <h3 className="text-[1.05rem] font-[650]">Other programs on this TNC</h3>
      <p className="text-[13.5px] text-ink2">
        A TNC serves one program only. Shared here, it serves several: each hears all that is heard, and what
        they send goes out in turns, behind the transmit lock. In the other program choose KISS over TCP.
      </p>
      <p className="flex items-center gap-1.5 pt-1.5 font-[600]">
        <ToneMark tone={sharing?.isListening ? 'proved' : isOn ? 'stop' : 'quiet'} />
        <span aria-live="polite">
          {sharing?.isListening ? `shared at ${placeOf(sharing)}` : 'not shared'}
        </span>
      </p>
      {sharing?.failure && <ProblemNote problem={failureText(sharing.failure)} />}
      <SharingForm link={link} settings={sharing?.settings ?? NOT_SHARED} />
      {sharing?.isListening && <SharingClients link={link} sharing={sharing} />}
    </section>
  );
}

const placeOf = ({ settings: { reach, port } }: SharingView): string =>
  reach === 'loopback' ? `127.0.0.1, port ${port}` : `every address of this machine, port ${port}`;

const LABELS = {
  reach: 'For programs',
  port: 'Port for them',
  newMayTransmit: 'A program that connects may transmit',
  isReachConfirmed: 'I know who is on this network',
  isAnnounced: 'Announced on the network',
} as const;

function SharingForm({ link, settings }: { link: LinkView; settings: SharingSettings }) {
  const { problem, isBusy, attempt } = useAttempt();
  const drafted = useDraftedForm<SharingSettings>({
    draft: `sharing ${link.id}`,
    resolver: classValidatorResolver(SharingSettings),
    saved: settings,
  });
  const { register, handleSubmit, formState, control } = drafted.form;
  const reach = useWatch({ control, name: 'reach' });
  const save = (isOn: boolean) =>
    handleSubmit((wanted) =>
      attempt(async () => {
        await command('PUT', `/links/${link.id}/sharing`, { ...wanted, isOn });
        drafted.drop({ ...wanted, isOn });
      }),
    );
  return (
    <form onSubmit={(event) => void save(true)(event)} noValidate className="flex flex-col gap-3 pt-2">
      <div className="grid max-w-[36rem] gap-4 sm:grid-cols-2">
        <SelectField label="For programs" hint="Who can reach the port" {...register('reach')}>
          <option value="loopback">on this machine only</option>
          <option value="network">on the whole network</option>
        </SelectField>
        <TextField
          label="Port for them"
          mono
          inputMode="numeric"
          hint="Enter the same in the other program"
          error={formState.errors.port?.message}
          {...register('port', AS_NUMBER)}
        />
      </div>
      <Check label="A program that connects may transmit at once" {...register('newMayTransmit')} />
      {reach === 'network' && (
        <>
          <Check
            label="I know who is on this network: any device on it can then hear, and send what I allow"
            {...register('isReachConfirmed')}
          />
          <Check label="Announce it on the network (multicast DNS)" {...register('isAnnounced')} />
        </>
      )}
      <DraftedNotes drafted={drafted} labels={LABELS} />
      {problem && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button
          type="submit"
          kind={settings.isOn ? 'plain' : 'main'}
          disabled={isBusy || drafted.elsewhere !== undefined}
        >
          {settings.isOn ? 'Use these settings' : 'Share this TNC'}
        </Button>
        {settings.isOn && (
          <Button kind="stop" disabled={isBusy} onClick={(event) => void save(false)(event)}>
            Stop sharing
          </Button>
        )}
      </div>
    </form>
  );
}

function Check({ label, ...rest }: { label: string } & React.ComponentProps<'input'>) {
  return (
    <label className="flex items-start gap-2 text-[14px] max-md:min-h-11">
      <input type="checkbox" className="mt-0.5 size-4 shrink-0 accent-[var(--proved)]" {...rest} />
      {label}
    </label>
  );
}
