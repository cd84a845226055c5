import { read } from 'node:fs';
import { promisify } from 'node:util';
import type { DarwinPortBinding, LinuxPortBinding } from '@serialport/bindings-cpp';
import { unixRead } from '@serialport/bindings-cpp/dist/unix-read.js';

const readAsync = promisify(read);
const readOrHangUp = (async (...asked: Parameters<typeof readAsync>) => {
  const got = await readAsync(...asked);
  if (got.bytesRead === 0) throw new Error('disconnected');
  return got;
}) as typeof readAsync;

/**
 * A line that is hung up reads as empty for ever (termios(3), Modem Disconnect). The library would ask again without end
 * if it happened to read before it polled, and the plug that was pulled would never be told.
 */
export function endWhenHungUp(binding: DarwinPortBinding | LinuxPortBinding): void {
  binding.read = (buffer, offset, length) =>
    unixRead({ binding, buffer, offset, length, fsReadAsync: readOrHangUp });
}
