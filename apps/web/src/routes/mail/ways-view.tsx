import type {
  GatewayEntry,
  MailProfile,
  MailSettings,
  MailSettingsView,
  MailWay,
} from '@mistpeak/contract/mail-settings';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useLive } from '../../live/store';
import { useNow } from '../../live/now';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { DraftNote } from '../../pieces/draft-note';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { FromField } from '../../pieces/from-field';
import { LinkField } from '../../pieces/link-field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Modems, Radios } from './device-fields';
import { ScheduleFields } from './schedule-fields';
import { WAY_WORDS, waitWords } from './words';

/** Whom mail is exchanged with, by which way, and what helps with it. */
export function WaysView({ desk, again }: { desk: MailDesk; again: () => void }) {
  const { values, set, wasBegun, drop } = useDraft<MailSettingsView>('mail ways', desk.settings);
  const { problem, isBusy, attempt } = useAttempt();
  const own = useLive((state) => state.operator?.call ?? '');
  const firstLink = useLive((state) => state.links[0]?.id);
  const change = (more: Partial<MailSettings>): void => set({ ...values, ...more });
  const changeProfile = (at: number, profile: MailProfile): void =>
    change({ profiles: values.profiles.map((one, i) => (i === at ? profile : one)) });
  const add = (way: MailWay): void =>
    change({
      profiles: [
        ...values.profiles,
        {
          id: crypto.randomUUID(),
          name: { packet: 'Gateways', tcp: 'Service', peer: 'Station', modem: 'Modem program' }[way],
          way,
          from: own,
          exchanges: 'both',
          tries: 3,
          gateways: way === 'tcp' ? [] : [{ call: '', via: '', note: '' }],
          ...(way === 'tcp'
            ? { host: '', port: 8772, word: '' }
            : firstLink === undefined
              ? {}
              : { linkId: firstLink }),
          ...(way === 'modem' ? { modem: values.modems[0]?.name ?? '' } : {}),
        },
      ],
    });
  return (
    <OperatorOnly>
      <form
        noValidate
        aria-label="Ways of mail"
        className="flex max-w-[66rem] flex-col gap-5"
        onSubmit={(event) => {
          event.preventDefault();
          void attempt(async () => {
            await command('PUT', '/mail/settings', values);
            drop();
            again();
          });
        }}
      >
        {wasBegun && <DraftNote drop={drop} />}
        {values.profiles.map((profile, i) => (
          <Profile
            key={profile.id}
            profile={profile}
            desk={desk}
            settings={values}
            set={(next) => changeProfile(i, next)}
            takeOut={() => change({ profiles: values.profiles.filter((_, at) => at !== i) })}
          />
        ))}
        <div className="flex flex-wrap gap-3">
          <Button onClick={() => add('packet')}>Add gateways by packet</Button>
          <Button onClick={() => add('tcp')}>Add a service by TCP</Button>
          <Button onClick={() => add('peer')}>Add a station</Button>
          <Button onClick={() => add('modem')}>Add gateways by a modem program</Button>
        </div>
        <Modems settings={values} change={change} />
        <Radios settings={values} change={change} />
        {problem && <ProblemNote problem={problem} detail={Object.values(problem.fields ?? {}).join('; ')} />}
        <div>
          <Button type="submit" kind="main" disabled={isBusy}>
            Save the ways
          </Button>
        </div>
      </form>
    </OperatorOnly>
  );
}

function Profile({
  profile,
  desk,
  settings,
  set,
  takeOut,
}: {
  profile: MailProfile;
  desk: MailDesk;
  settings: MailSettings;
  set: (profile: MailProfile) => void;
  takeOut: () => void;
}) {
  const { way } = profile;
  const change = (more: Partial<MailProfile>): void => set({ ...profile, ...more });
  const isOverAir = way !== 'tcp';
  const nowMs = useNow(30_000);
  const nextMs = desk.nextAtMs[profile.id];
  return (
    <fieldset className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2">
      <legend className="sr-only">{profile.name}</legend>
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2>
          {profile.name || 'A way'} <span className="font-[400] text-ink2">{WAY_WORDS[way]}</span>
        </h2>
        <Button kind="stop" onClick={takeOut}>
          Take {profile.name || 'it'} out
        </Button>
      </div>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <TextField
          label="Name"
          value={profile.name}
          onChange={({ target }) => change({ name: target.value })}
        />
        <FromField label="As" value={profile.from} error={undefined} set={(from) => change({ from })} />
        {isOverAir && (
          <LinkField
            label="Link"
            value={profile.linkId ?? ''}
            error={undefined}
            set={(linkId) => change({ linkId })}
          />
        )}
        <SelectField
          label="What it does"
          value={profile.exchanges}
          onChange={({ target }) => change({ exchanges: target.value as MailProfile['exchanges'] })}
        >
          <option value="both">send and receive</option>
          <option value="send">send only</option>
          <option value="receive">receive only</option>
        </SelectField>
        <NumberField
          label="Tries"
          hint="calls at one before the next"
          value={profile.tries}
          set={(tries) => change({ tries: tries ?? 1 })}
        />
        {way === 'tcp' && (
          <>
            <TextField
              label="Host"
              mono
              value={profile.host ?? ''}
              onChange={({ target }) => change({ host: target.value })}
            />
            <NumberField label="Port" value={profile.port} set={(port) => change({ port: port ?? 0 })} />
            <TextField
              label="Its word for programs"
              hint="what its password line asks for; not the password of the account"
              value={profile.word ?? ''}
              onChange={({ target }) => change({ word: target.value })}
            />
          </>
        )}
        {way === 'modem' && (
          <SelectField
            label="Modem program"
            value={profile.modem ?? ''}
            onChange={({ target }) => change({ modem: target.value })}
          >
            <option value="">choose</option>
            {settings.modems.map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
          </SelectField>
        )}
        {isOverAir && (
          <SelectField
            label="Frequency"
            value={profile.radio ?? ''}
            onChange={({ target }) => change({ radio: target.value })}
          >
            <option value="">set by hand, and ticked</option>
            {settings.radios.map(({ name }) => (
              <option key={name} value={name}>
                set by {name}, read back
              </option>
            ))}
          </SelectField>
        )}
      </div>
      {isOverAir && (
        <Gateways way={way} gateways={profile.gateways} set={(gateways) => change({ gateways })} />
      )}
      {(way === 'packet' || way === 'peer') && <Lengths profile={profile} set={set} />}
      <ScheduleFields schedule={profile.schedule} set={(schedule) => change({ schedule })} />
      {desk.notCalled[profile.id] !== undefined && (
        <p className="text-[14px] text-look">
          When it was last due it did not call: {desk.notCalled[profile.id]}
        </p>
      )}
      {nextMs !== undefined && (
        <p className="text-[14px] text-ink2">
          It calls next in {nextMs > nowMs ? waitWords(nextMs - nowMs) : formatAge(0)}.
        </p>
      )}
    </fieldset>
  );
}

function Gateways({
  way,
  gateways,
  set,
}: {
  way: MailWay;
  gateways: readonly GatewayEntry[];
  set: (gateways: GatewayEntry[]) => void;
}) {
  const usual = way === 'peer' ? '' : '-10';
  const put = (at: number, more: Partial<GatewayEntry>): void =>
    set(gateways.map((one, i) => (i === at ? { ...one, ...more } : one)));
  const swap = (at: number): void => {
    const next = [...gateways];
    const [one] = next.splice(at, 1);
    if (one) next.splice(at - 1, 0, one);
    set(next);
  };
  return (
    <div className="flex flex-col gap-2">
      <p className="text-[14px] text-ink2">
        {way === 'peer'
          ? 'Stations, called in this order; the other side listens, on SSID 0 as a rule.'
          : 'Called in this order, until one session is well. Gateways listen on SSID 10 as a rule; the nearest is not always the best.'}
      </p>
      {gateways.map((gateway, i) => (
        <div key={i} className="grid items-end gap-2 sm:grid-cols-[9rem_9rem_8rem_minmax(0,1fr)_auto]">
          <TextField
            label={`Call ${i + 1}`}
            mono
            placeholder={`QH5VEL${usual}`}
            value={gateway.call}
            onChange={({ target }) => put(i, { call: target.value.toUpperCase() })}
          />
          <TextField
            label="Via"
            mono
            value={gateway.via}
            onChange={({ target }) => put(i, { via: target.value.toUpperCase() })}
          />
          <NumberField
            label="MHz"
            value={gateway.frequencyMHz}
            set={(frequencyMHz) => {
              const { frequencyMHz: _, ...rest } = gateway;
              set(
                gateways.map((one, at) =>
                  at === i ? (frequencyMHz === undefined ? rest : { ...rest, frequencyMHz }) : one,
                ),
              );
            }}
          />
          <TextField
            label="Note"
            value={gateway.note}
            onChange={({ target }) => put(i, { note: target.value })}
          />
          <span className="flex gap-2 pb-1">
            {i > 0 && <Button onClick={() => swap(i)}>Earlier</Button>}
            {gateways.length > 1 && (
              <Button onClick={() => set(gateways.filter((_, at) => at !== i))}>Out</Button>
            )}
          </span>
        </div>
      ))}
      <div>
        <Button onClick={() => set([...gateways, { call: '', via: '', note: '' }])}>Add one to try</Button>
      </div>
    </div>
  );
}

/** PACLEN and MAXFRAME; empty: computed for the link. */
function Lengths({ profile, set }: { profile: MailProfile; set: (profile: MailProfile) => void }) {
  const { packetOctets, window, ...rest } = profile;
  const put = (length: number | undefined, frames: number | undefined): void =>
    set({
      ...rest,
      ...(length === undefined ? {} : { packetOctets: length }),
      ...(frames === undefined ? {} : { window: frames }),
    });
  return (
    <details className="text-[14px]">
      <summary className="cursor-pointer py-1 text-ink2">
        PACLEN, MAXFRAME:{' '}
        {packetOctets === undefined && window === undefined ? 'computed for this link' : 'as you set them'}
      </summary>
      <div className="grid gap-3 pt-1 sm:grid-cols-4">
        <NumberField
          label="PACLEN, octets"
          hint="shorter where frames are lost"
          value={packetOctets}
          set={(length) => put(length, window)}
        />
        <NumberField label="MAXFRAME" value={window} set={(frames) => put(packetOctets, frames)} />
      </div>
    </details>
  );
}
