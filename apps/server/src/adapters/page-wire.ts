import type { WebSocket } from 'ws';
import { AsyncQueue } from '@mistpeak/link/async-queue';
import type { ByteLink } from '@mistpeak/link/byte-link';
import { every, type Clock } from '@mistpeak/link/clock';
import { failureOf, LinkFailed } from '@mistpeak/link/failure';

/** A page that sleeps keeps its socket: it is asked this often, and given up when it has not answered in time. */
const ASK_EVERY_MS = 10_000;
/** The page closes with this when its device went away (RFC 6455, 7.4.2: private codes). */
export const UNPLUGGED = 4410;

/** The octets of a device at a browser, as binary messages of a WebSocket. It is never resumed: KISS has no memory. */
export function overPage(socket: WebSocket, clock: Clock): ByteLink {
  const received = new AsyncQueue<Uint8Array>();
  let isAlive = true;
  const ask = (): void => {
    if (!isAlive) return socket.terminate();
    isAlive = false;
    socket.ping();
  };
  const stopAsking = every(clock, ASK_EVERY_MS, ask);
  socket.on('pong', () => (isAlive = true));
  socket.on('message', (data: Buffer, isBinary: boolean) => {
    isAlive = true;
    if (isBinary) received.push(data);
  });
  socket.on('close', (code: number) => {
    stopAsking();
    received.end(new LinkFailed(code === UNPLUGGED ? 'unplugged' : 'page-away'));
  });
  return {
    receive: received,
    send: (octets) =>
      new Promise((resolve, reject) =>
        socket.send(octets, { binary: true }, (error) => (error ? reject(failureOf(error)) : resolve())),
      ),
    close: () => {
      received.end();
      stopAsking();
      socket.close();
      return Promise.resolve();
    },
  };
}
