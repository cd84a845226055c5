import { CONNECTORS, ENDS, type Connector, type End } from '@mistpeak/core/kit/connectors';
import { BLUETOOTH_PROFILES, USB_ROLES, type Port, type UsbRole } from '@mistpeak/core/kit/item';
import { Button } from '../../pieces/button';
import { ChecksOf } from './checks';

const BOX =
  'rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 text-[14px] text-ink max-md:min-h-11';

/** The ports of an item: what is plugged, paired or joined there. */
export function PortRows({ ports, set }: { ports: readonly Port[]; set: (ports: readonly Port[]) => void }) {
  const change = (at: number, port: Port): void => set(ports.with(at, port));
  const add = (): void => {
    const taken = new Set(ports.map(({ id }) => id));
    const id = Array.from({ length: ports.length + 1 }, (_, i) => `port ${i + 1}`).find(
      (one) => !taken.has(one),
    );
    set([...ports, { id: id as string, connector: 'usb-a', end: 'socket', usb: 'host' }]);
  };
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="pb-1 text-[13.5px] font-[620]">Ports</legend>
      {ports.map((port, at) => (
        <div key={port.id} className="flex flex-wrap items-center gap-2">
          <span className="w-24 truncate font-mono text-[13px]" title={port.id}>
            {port.id}
          </span>
          <select
            aria-label={`Connector of ${port.id}`}
            value={port.connector}
            onChange={({ target }) => change(at, withConnector(port, target.value as Connector))}
            className={BOX}
          >
            {(Object.keys(CONNECTORS) as Connector[]).map((id) => (
              <option key={id} value={id}>
                {CONNECTORS[id].name}
              </option>
            ))}
          </select>
          <select
            aria-label={`End of ${port.id}`}
            value={port.end}
            onChange={({ target }) => change(at, { ...port, end: target.value as End })}
            className={BOX}
          >
            {ENDS.map((end) => (
              <option key={end}>{end}</option>
            ))}
          </select>
          {CONNECTORS[port.connector].family === 'USB' && (
            <select
              aria-label={`USB role of ${port.id}`}
              value={port.usb ?? 'device'}
              onChange={({ target }) => change(at, { ...port, usb: target.value as UsbRole })}
              className={BOX}
            >
              {USB_ROLES.map((role) => (
                <option key={role}>{role}</option>
              ))}
            </select>
          )}
          {port.connector === 'bluetooth' && (
            <ChecksOf
              legend="Profiles"
              all={BLUETOOTH_PROFILES}
              on={port.profiles ?? []}
              set={(profiles) => change(at, { ...port, profiles })}
            />
          )}
          <Button onClick={() => set(ports.toSpliced(at, 1))} aria-label={`Remove ${port.id}`}>
            Remove
          </Button>
        </div>
      ))}
      <div>
        <Button onClick={add}>Add a port</Button>
      </div>
    </fieldset>
  );
}

/** Another connector has other facts beside it. */
function withConnector({ id, name }: Port, connector: Connector): Port {
  const { family } = CONNECTORS[connector];
  return {
    id,
    connector,
    end: family === 'Bluetooth' || family === 'network' ? 'either' : 'socket',
    ...(name ? { name } : {}),
    ...(family === 'USB' ? { usb: 'host' } : {}),
    ...(family === 'Bluetooth' ? { profiles: ['serial'] } : {}),
  };
}
