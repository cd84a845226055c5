import { connect, type Socket } from 'node:net';
import { AsyncQueue } from '@mistpeak/link/async-queue';
import type { ByteLink } from '@mistpeak/link/byte-link';
import { failureOf, LinkFailed } from '@mistpeak/link/failure';

/** A silent far end is asked after this long whether it still lives, so that a half-open connection is noticed. */
const KEEP_ALIVE_AFTER_MS = 30_000;

/** Connects; aborting gives up. Rejects with LinkFailed. */
export function openTcp(host: string, port: number, signal: AbortSignal): Promise<ByteLink> {
  return new Promise((resolve, reject) => {
    const socket = connect({
      host,
      port,
      keepAlive: true,
      keepAliveInitialDelay: KEEP_ALIVE_AFTER_MS,
      signal,
    });
    socket.setNoDelay(true);
    socket.once('connect', () => resolve(linkOver(socket)));
    socket.once('error', (error) => reject(failureOf(error)));
  });
}

function linkOver(socket: Socket): ByteLink {
  const received = new AsyncQueue<Uint8Array>();
  socket.on('data', (octets: Buffer) => received.push(octets));
  socket.on('error', (error) => received.end(failureOf(error)));
  socket.on('close', () => received.end(new LinkFailed('closed-by-peer')));
  return {
    receive: received,
    send: (octets) =>
      new Promise((resolve, reject) =>
        socket.write(octets, (error) => (error ? reject(failureOf(error)) : resolve())),
      ),
    close: () =>
      new Promise((resolve) => {
        received.end();
        if (socket.destroyed) return resolve();
        socket.once('close', () => resolve());
        // What was handed over is still sent; a far end that takes nothing is left after a second.
        socket.end();
        setTimeout(() => socket.destroy(), 1000).unref();
      }),
  };
}
