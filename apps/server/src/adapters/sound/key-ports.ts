import { open } from 'node:fs/promises';
import { SerialPort } from 'serialport';
import type { KeyPort } from './key-holder.js';

export type KeyAddress =
  | { readonly kind: 'line'; readonly device: string; readonly line: 'RTS' | 'DTR' }
  | { readonly kind: 'pin'; readonly device: string; readonly pin: number };

export const openKeyPort = (address: KeyAddress): Promise<KeyPort> =>
  address.kind === 'line' ? openLine(address) : openPin(address);

/** A serial line as a key; the other line stays down, so that an interface that listens to both is not keyed by opening. */
async function openLine({ device, line }: KeyAddress & { kind: 'line' }): Promise<KeyPort> {
  const port = new SerialPort({ path: device, baudRate: 9600, autoOpen: false, hupcl: true });
  await new Promise<void>((resolve, reject) => port.open((error) => (error ? reject(error) : resolve())));
  return {
    set: (isDown) =>
      new Promise((resolve, reject) =>
        port.set({ rts: line === 'RTS' && isDown, dtr: line === 'DTR' && isDown }, (error) =>
          error ? reject(error) : resolve(),
        ),
      ),
    close: () => new Promise((resolve) => port.close(() => resolve())),
  };
}

/**
 * Output report of a common USB sound chip: report number, mode (0: the pins follow), values, directions (1: out), nothing.
 * From memory; a key-down has the same octet for value and direction.
 */
export const pinReport = (pin: number, isDown: boolean): Uint8Array => {
  const mask = 1 << (pin - 1);
  return Uint8Array.of(0, 0, isDown ? mask : 0, mask, 0);
};

async function openPin({ device, pin }: KeyAddress & { kind: 'pin' }): Promise<KeyPort> {
  const file = await open(device, 'w');
  return {
    set: async (isDown) => {
      await file.write(pinReport(pin, isDown));
    },
    close: () => file.close(),
  };
}
