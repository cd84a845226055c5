import { useEffect, useRef, useState } from 'react';
import { formatPlace } from '@mistpeak/core/geo/place';
import { RECEIVER_KINDS, type ReceiverSettings } from '@mistpeak/contract/whereabouts';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

const KINDS = {
  none: 'none',
  serial: 'NMEA at a serial port',
  network: 'NMEA or the position daemon, by network',
} as const;

const STATES = {
  none: 'No receiver is chosen.',
  opening: 'Opening the receiver …',
  silent: 'The receiver is open and has no place yet: give it the sky.',
  telling: 'The receiver tells where it is.',
  failed: 'The receiver does not answer; it is tried again.',
} as const;

/** Where this device is: by a receiver at Mistpeak's machine, or by this page. */
export function Whereabouts() {
  const { receiver, state, trouble, fix } = useLive((live) => live.whereabouts);
  const nowMs = useNow(1000);
  return (
    <aside
      aria-label="Where this device is"
      className="flex flex-col gap-3 lg:border-l lg:border-line lg:pl-6"
    >
      <h2>Where this device is</h2>
      <p role="status" className={`text-[14px] ${state === 'failed' ? 'text-stop' : 'text-ink2'}`}>
        {STATES[state]} {state === 'failed' && trouble}
      </p>
      {fix ? (
        <p className="text-[14px]">
          <span className="font-mono">{formatPlace(fix.position)}</span>
          <span className="block text-[13px] text-ink3">
            by {fix.by === 'page' ? 'a page' : 'the receiver'}, {formatAge(nowMs - fix.atMs)} ago
          </span>
        </p>
      ) : (
        <p className="text-[14px] text-ink2">Nobody has told it yet.</p>
      )}
      <OperatorOnly>
        <FromThisPage />
        <ReceiverForm key={receiver.version} receiver={receiver} />
      </OperatorOnly>
    </aside>
  );
}

/** As long as it is wanted and this page is open, the browser's own position goes to the server. */
function FromThisPage() {
  const [isOn, setOn] = useState(false);
  const [words, setWords] = useState<string>();
  const { problem, attempt } = useAttempt();
  const tell = useRef(attempt);
  useEffect(() => void (tell.current = attempt));
  useEffect(() => {
    if (!isOn) return;
    const watch = navigator.geolocation.watchPosition(
      ({ coords: { latitude, longitude, speed, heading, altitude, accuracy } }) => {
        setWords(`Told, to ${Math.round(accuracy)} m.`);
        void tell.current(() =>
          command('POST', '/whereabouts/page', {
            latitudeDeg: latitude,
            longitudeDeg: longitude,
            ...(speed === null ? {} : { speedMps: speed }),
            ...(heading === null || Number.isNaN(heading) ? {} : { courseDeg: heading }),
            ...(altitude === null ? {} : { altitudeM: altitude }),
          }),
        );
      },
      ({ message }) => setWords(`The browser gives no place: ${message}`),
      { enableHighAccuracy: true },
    );
    return () => navigator.geolocation.clearWatch(watch);
  }, [isOn]);
  if (!('geolocation' in navigator)) return null;
  return (
    <div className="flex flex-col gap-1">
      <label className="flex items-center gap-2 text-[14px] max-md:min-h-11">
        <input
          type="checkbox"
          className="size-4 accent-(--proved)"
          checked={isOn}
          onChange={({ target }) => setOn(target.checked)}
        />
        This page tells where it is, while it is open
      </label>
      {isOn && words !== undefined && (
        <p role="status" className="text-[13px] text-ink3">
          {words}
        </p>
      )}
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

function ReceiverForm({ receiver }: { receiver: ReceiverSettings & { version: number } }) {
  const { version, ...saved } = receiver;
  const [settings, set] = useState<ReceiverSettings>({
    device: '/dev/ttyUSB0',
    speed: 4800,
    host: '127.0.0.1',
    port: 2947,
    ...saved,
  });
  const { problem, isBusy, attempt } = useAttempt();
  const fields = problem?.fields ?? {};
  const { kind, device, speed, host, port } = settings;
  const body =
    kind === 'serial' ? { kind, device, speed } : kind === 'network' ? { kind, host, port } : { kind };
  return (
    <form
      noValidate
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(() =>
          command('PUT', '/whereabouts/receiver', { ...body, ...(version > 0 ? { version } : {}) }),
        );
      }}
    >
      <SelectField
        label="Receiver at Mistpeak’s machine"
        value={kind}
        onChange={({ target }) => set({ ...settings, kind: target.value as ReceiverSettings['kind'] })}
      >
        {RECEIVER_KINDS.map((one) => (
          <option key={one} value={one}>
            {KINDS[one]}
          </option>
        ))}
      </SelectField>
      {kind === 'serial' && (
        <>
          <TextField
            label="Device"
            mono
            value={device ?? ''}
            error={fields.device}
            onChange={({ target }) => set({ ...settings, device: target.value })}
          />
          <NumberField
            label="Speed, Bd"
            hint="4800 is usual"
            value={speed}
            error={fields.speed}
            set={(value = NaN) => set({ ...settings, speed: value })}
          />
        </>
      )}
      {kind === 'network' && (
        <>
          <TextField
            label="Address"
            mono
            value={host ?? ''}
            error={fields.host}
            onChange={({ target }) => set({ ...settings, host: target.value })}
          />
          <NumberField
            label="Port"
            hint="2947 is the daemon’s"
            value={port}
            error={fields.port}
            set={(value = NaN) => set({ ...settings, port: value })}
          />
        </>
      )}
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      <Button type="submit" disabled={isBusy} className="self-start">
        Use this receiver
      </Button>
    </form>
  );
}
