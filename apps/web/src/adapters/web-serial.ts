import { whyNotSecure, wordsOf, type CannotLend, type LentDevice } from './lent-device';

export function whyNoSerial(): CannotLend | undefined {
  return (
    whyNotSecure() ??
    ('serial' in navigator
      ? undefined
      : {
          happened: 'This browser gives pages no serial ports.',
          means: 'It has no Web Serial; phones and some desktop browsers lack it.',
          try: 'Use another browser, Bluetooth LE where the TNC speaks it, or plug the TNC into the machine of Mistpeak.',
        })
  );
}

/** Asks the operator for a port: USB, adapter or Bluetooth serial. Needs a click. Rejects when none is chosen. */
export async function chooseSerialPort(speed: number): Promise<LentDevice> {
  return openPort(await navigator.serial.requestPort(), speed);
}

/** The one port that this page was given before, opened without asking again. */
export async function grantedSerialPort(speed: number): Promise<LentDevice | undefined> {
  const [port, ...others] = await navigator.serial.getPorts();
  return port && others.length === 0 ? openPort(port, speed) : undefined;
}

async function openPort(port: SerialPort, speed: number): Promise<LentDevice> {
  // Flow control none: KISS octets would be eaten otherwise (common practice, no source).
  await port.open({ baudRate: speed, flowControl: 'none' });
  let take: (octets: Uint8Array) => void = () => undefined;
  let reader: ReadableStreamDefaultReader<Uint8Array> | undefined;
  const read = async (): Promise<string> => {
    let words = '';
    // After a break or a framing error the browser gives a new stream; it is gone only with the device (Web Serial, "readable").
    while (port.readable) {
      reader = port.readable.getReader();
      try {
        for (let part = await reader.read(); !part.done; part = await reader.read()) take(part.value);
        return '';
      } catch (error) {
        words = wordsOf(error);
      } finally {
        reader.releaseLock();
      }
    }
    return words;
  };
  const { usbVendorId, usbProductId } = port.getInfo();
  const hex = (id: number): string => id.toString(16).padStart(4, '0');
  return {
    name:
      usbVendorId === undefined ? 'serial port' : `USB port ${hex(usbVendorId)}:${hex(usbProductId ?? 0)}`,
    receive: (wanted) => (take = wanted),
    closed: read(),
    send: async (octets) => {
      const writer = port.writable?.getWriter();
      if (!writer) throw new Error('the port is closed');
      try {
        await writer.write(octets);
      } finally {
        writer.releaseLock();
      }
    },
    close: async () => {
      await reader?.cancel().catch(() => undefined);
      await port.close().catch(() => undefined);
    },
  };
}
