import { fork, type ChildProcess } from 'node:child_process';
import { readdir, realpath } from 'node:fs/promises';
import type { PortView } from '@mistpeak/contract/link';
import { AsyncQueue } from '@mistpeak/link/async-queue';
import type { ByteLink } from '@mistpeak/link/byte-link';
import { failureOf, LinkFailed } from '@mistpeak/link/failure';
import { SerialPort } from 'serialport';
import { childFile } from './child-file.js';
import type { FromChild, ToChild } from './serial-child.js';

/**
 * Opens a serial port, 8 data bits, no parity, no flow control, in a child process of its own:
 * a Bluetooth port can block in open() for half a minute and would hold a thread of this process.
 */
export async function openSerial(device: string, speed: number, signal: AbortSignal): Promise<ByteLink> {
  await refuseElsewhere(device);
  return openBelowDev(device, speed, signal);
}

/**
 * A link below /dev may lead anywhere: only what lies there really is opened. What lies elsewhere is told as what is not
 * there, so that nobody learns which files exist.
 */
async function refuseElsewhere(device: string): Promise<void> {
  const real = await realpath(device).catch(() => '');
  if (!real.startsWith('/dev/')) throw new LinkFailed('no-such-device');
}

function openBelowDev(device: string, speed: number, signal: AbortSignal): Promise<ByteLink> {
  const child = fork(childFile('serial-child'), {
    execArgv: [],
    serialization: 'advanced',
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  const received = new AsyncQueue<Uint8Array>();
  return new Promise((resolve, reject) => {
    const abandon = (): boolean => child.kill('SIGKILL');
    signal.addEventListener('abort', abandon, { once: true });
    child.on('message', (message: FromChild) => {
      if (message.kind === 'opened') resolve(linkOver(child, received));
      else if (message.kind === 'received') received.push(message.octets);
      else if (message.kind === 'failed') {
        const failure = failureOf({ code: message.code, message: message.words });
        reject(failure);
        received.end(failure);
        child.kill();
      } else received.end(new LinkFailed('unplugged', message.words));
    });
    child.on('exit', () => {
      signal.removeEventListener('abort', abandon);
      reject(new LinkFailed('other', 'the port process ended'));
      received.end(new LinkFailed('unplugged'));
    });
    tell(child, { kind: 'open', device, speed }).catch((error: unknown) => reject(failureOf(error)));
  });
}

function linkOver(child: ChildProcess, received: AsyncQueue<Uint8Array>): ByteLink {
  return {
    receive: received,
    send: (octets) => tell(child, { kind: 'send', octets }),
    close: () =>
      new Promise((resolve) => {
        received.end();
        if (child.exitCode !== null || child.signalCode !== null) return resolve();
        child.once('exit', () => resolve());
        tell(child, { kind: 'close' }).catch(() => undefined);
        setTimeout(() => child.kill('SIGKILL'), 1500).unref();
      }),
  };
}

function tell(child: ChildProcess, message: ToChild): Promise<void> {
  return new Promise((resolve, reject) => {
    if (!child.connected) return reject(new LinkFailed('unplugged'));
    child.send(message, (error) => (error ? reject(failureOf(error)) : resolve()));
  });
}

const PORT_NAMES = /^(?:ttyUSB|ttyACM|ttyAMA|ttyS|rfcomm|cu\.|tty\.)/;

/** The serial ports of this machine. Where the device database is missing, /dev is read instead. */
export async function listPorts(): Promise<PortView[]> {
  try {
    const ports = await SerialPort.list();
    return ports.map((port) => ({
      path: port.path,
      about: [port.manufacturer, port.serialNumber].filter(Boolean).join(' '),
    }));
  } catch {
    const names = await readdir('/dev').catch(() => []);
    return names.filter((name) => PORT_NAMES.test(name)).map((name) => ({ path: `/dev/${name}`, about: '' }));
  }
}
