import { closeSync, openSync } from 'node:fs';
import type { LinuxPortBinding } from '@serialport/bindings-cpp';
import { endWhenHungUp } from './hang-up.js';

/** What a hung-up line reads as, without the race that leads there: an end. */
const reading = async (path: string): Promise<unknown> => {
  const fd = openSync(path, 'r');
  const binding = { fd, isOpen: true } as unknown as LinuxPortBinding;
  endWhenHungUp(binding);
  return binding.read(Buffer.alloc(8), 0, 8).finally(() => closeSync(fd));
};

test('a line that reads as empty is told as gone, once, and not asked again for ever', async () => {
  await expect(reading('/dev/null')).rejects.toThrow('disconnected');
});

test('octets that were read are handed on', async () => {
  await expect(reading('/dev/zero')).resolves.toMatchObject({ bytesRead: 8 });
});
