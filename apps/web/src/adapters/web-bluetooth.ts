import { whyNotSecure, type CannotLend, type LentDevice } from './lent-device';

/** The open “BLE KISS API”: its service, the characteristic that is written, and the one that notifies. */
export const KISS_SERVICE = '00000001-ba2a-46c9-ae49-01b0961f68bb';
export const KISS_WRITE = '00000002-ba2a-46c9-ae49-01b0961f68bb';
export const KISS_NOTIFY = '00000003-ba2a-46c9-ae49-01b0961f68bb';

/** The least that every connection carries in one write: ATT_MTU 23 less 3 (Bluetooth Core, Vol 3, Part F, 5.2.1; from memory). */
const PIECE = 20;

export function whyNoBluetooth(): CannotLend | undefined {
  return (
    whyNotSecure() ??
    ('bluetooth' in navigator
      ? undefined
      : {
          happened: 'This browser gives pages no Bluetooth.',
          means: 'It has no Web Bluetooth.',
          try: 'Use another browser, or pair the TNC with the machine of Mistpeak as a serial port.',
        })
  );
}

/** Asks the operator for a TNC that offers the KISS service. Needs a click. Rejects when none is chosen. */
export async function chooseBluetoothTnc(): Promise<LentDevice> {
  const device = await navigator.bluetooth.requestDevice({ filters: [{ services: [KISS_SERVICE] }] });
  const server = await device.gatt?.connect();
  if (!server) throw new Error('the device offers no services');
  const service = await server.getPrimaryService(KISS_SERVICE);
  const [write, notify] = await Promise.all([
    service.getCharacteristic(KISS_WRITE),
    service.getCharacteristic(KISS_NOTIFY),
  ]);
  let take: (octets: Uint8Array) => void = () => undefined;
  // Frames cross the borders of notifications: they are octets like any other.
  notify.addEventListener('characteristicvaluechanged', () => {
    const { value } = notify;
    if (value)
      take(new Uint8Array(value.buffer.slice(value.byteOffset, value.byteOffset + value.byteLength)));
  });
  const closed = new Promise<string>((resolve) =>
    device.addEventListener('gattserverdisconnected', () => resolve('the device is out of reach'), {
      once: true,
    }),
  );
  await notify.startNotifications();
  // One write after another: a second one before the first has ended is refused.
  let line: Promise<unknown> = Promise.resolve();
  const writePieces = async (octets: Uint8Array): Promise<void> => {
    for (let at = 0; at < octets.length; at += PIECE)
      await write.writeValueWithResponse(octets.slice(at, at + PIECE));
  };
  return {
    name: device.name ?? 'Bluetooth TNC',
    receive: (wanted) => (take = wanted),
    closed,
    send: (octets) => {
      const written = line.then(() => writePieces(octets));
      line = written.catch(() => undefined);
      return written;
    },
    close: () => {
      server.disconnect();
      return Promise.resolve();
    },
  };
}
