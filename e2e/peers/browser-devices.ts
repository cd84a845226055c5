import type { Page } from '@playwright/test';

/** What the scripted devices keep for the test, in the page. */
interface Scripted {
  written: string[];
  play(hex: string, piece: number): void;
  unplug(): void;
  /** Noise on the line: the browser ends the stream and gives another. */
  disturb(): void;
}
type ScriptedWindow = typeof globalThis & { scripted: Scripted; name: string };

/**
 * A TNC at the border of the browser's own interfaces: Web Serial and Web Bluetooth are replaced by scripts that keep
 * what is written and play octets back. The page's code and everything behind it is the real one.
 */
export async function scriptDevices(page: Page, { has }: { has: boolean } = { has: true }): Promise<void> {
  await page.addInitScript(install, has);
}

export const writtenTo = (page: Page): Promise<string> =>
  page.evaluate(() => (globalThis as unknown as ScriptedWindow).scripted.written.join(''));

export const piecesTo = (page: Page): Promise<string[]> =>
  page.evaluate(() => (globalThis as unknown as ScriptedWindow).scripted.written);

export const playFrom = (page: Page, hex: string, piece = 20): Promise<void> =>
  page.evaluate(([octets, cut]) => (globalThis as unknown as ScriptedWindow).scripted.play(octets, cut), [
    hex,
    piece,
  ] as const);

export const unplug = (page: Page): Promise<void> =>
  page.evaluate(() => (globalThis as unknown as ScriptedWindow).scripted.unplug());

export const disturb = (page: Page): Promise<void> =>
  page.evaluate(() => (globalThis as unknown as ScriptedWindow).scripted.disturb());

/** Runs in the page before its own code. */
function install(has: boolean): void {
  const scope = globalThis as unknown as ScriptedWindow;
  const hexOf = (octets: Uint8Array): string =>
    [...octets].map((octet) => octet.toString(16).padStart(2, '0')).join('');
  const octetsOf = (hex: string): Uint8Array =>
    Uint8Array.from(hex.match(/../g) ?? [], (pair) => parseInt(pair, 16));
  const cutIn = (hex: string, piece: number): Uint8Array[] => {
    const octets = octetsOf(hex);
    return Array.from({ length: Math.ceil(octets.length / piece) }, (_, i) =>
      octets.slice(i * piece, (i + 1) * piece),
    );
  };
  const replace = (name: string, value: unknown): void =>
    Object.defineProperty(Object.getPrototypeOf(navigator), name, { configurable: true, get: () => value });
  if (!has) {
    for (const name of ['serial', 'bluetooth'])
      delete (Object.getPrototypeOf(navigator) as Record<string, unknown>)[name];
    return;
  }
  let controller: ReadableStreamDefaultController<Uint8Array> | undefined;
  const scripted: Scripted = {
    written: [],
    play: () => undefined,
    unplug: () => undefined,
    disturb: () => undefined,
  };
  scope.scripted = scripted;
  const port = {
    readable: null as ReadableStream<Uint8Array> | null,
    writable: null as WritableStream<Uint8Array> | null,
    getInfo: () => ({ usbVendorId: 0x1209, usbProductId: 0x0001 }),
    open: ({ flowControl }: { flowControl: string }) => {
      if (flowControl !== 'none') throw new Error('flow control');
      port.readable = new ReadableStream({ start: (given) => void (controller = given) });
      port.writable = new WritableStream({ write: (octets) => void scripted.written.push(hexOf(octets)) });
      scripted.play = (hex, piece) => cutIn(hex, piece).forEach((part) => controller?.enqueue(part));
      scripted.unplug = () => {
        controller?.error(new Error('The device has been lost.'));
        port.readable = null;
      };
      scripted.disturb = () => {
        controller?.error(new Error('A framing error.'));
        port.readable = new ReadableStream({ start: (given) => void (controller = given) });
      };
      return Promise.resolve();
    },
    close: () => Promise.resolve(void (port.readable = null)),
  };
  replace('serial', {
    requestPort: () => {
      // The browser remembers what was granted; window.name outlives a reload.
      scope.name = 'granted';
      return Promise.resolve(port);
    },
    getPorts: () => Promise.resolve(scope.name === 'granted' ? [port] : []),
  });
  const notify = Object.assign(new EventTarget(), {
    value: undefined as DataView | undefined,
    startNotifications: () => Promise.resolve(),
  });
  let isWriting = false;
  const write = {
    writeValueWithResponse: async (octets: Uint8Array) => {
      if (isWriting) throw new Error('GATT operation already in progress.');
      isWriting = true;
      await new Promise((resolve) => setTimeout(resolve, 1));
      isWriting = false;
      scripted.written.push(hexOf(octets));
    },
  };
  const device = Object.assign(new EventTarget(), {
    name: 'pocket TNC',
    gatt: {
      connect: () => {
        scripted.play = (hex, piece) => {
          for (const part of cutIn(hex, piece)) {
            notify.value = new DataView(part.buffer);
            notify.dispatchEvent(new Event('characteristicvaluechanged'));
          }
        };
        scripted.unplug = () => device.dispatchEvent(new Event('gattserverdisconnected'));
        return Promise.resolve({
          disconnect: () => device.dispatchEvent(new Event('gattserverdisconnected')),
          getPrimaryService: () =>
            Promise.resolve({
              getCharacteristic: (id: string) => Promise.resolve(id.startsWith('00000002') ? write : notify),
            }),
        });
      },
    },
  });
  replace('bluetooth', {
    requestDevice: ({ filters }: { filters: { services: string[] }[] }) =>
      filters[0]?.services[0] === '00000001-ba2a-46c9-ae49-01b0961f68bb'
        ? Promise.resolve(device)
        : Promise.reject(new Error('no such service')),
  });
}
