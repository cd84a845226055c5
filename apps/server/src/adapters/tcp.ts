import { connect, type Socket } from 'node:net';
import { AsyncQueue } from '@mistpeak/link/async-queue';
import type { ByteLink } from '@mistpeak/link/byte-link';
import { failureOf, LinkFailed } from '@mistpeak/link/failure';

/**
 * A silent far end is asked after this long whether it still lives. The runtime then asks every second, ten times (libuv,
 * uv_tcp_keepalive): one that is gone is named within half a minute.
 */
const KEEP_ALIVE_AFTER_MS = 20_000;
const MOST_WAITING = 65_536;

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
  let waiting = 0;
  socket.on('data', (octets: Buffer) => {
    received.push(octets);
    waiting += octets.length;
    // Who sends faster than it is read waits in its own socket, and takes no other link's turn.
    if (waiting > MOST_WAITING) socket.pause();
  });
  async function* inTurns(): AsyncGenerator<Uint8Array> {
    for await (const octets of received) {
      yield octets;
      waiting -= octets.length;
      if (waiting > 0 || !socket.isPaused()) continue;
      await new Promise((resolve) => setImmediate(resolve));
      socket.resume();
    }
  }
  socket.on('error', (error) => received.end(failureOf(error)));
  socket.on('close', () => received.end(new LinkFailed('closed-by-peer')));
  return {
    receive: inTurns(),
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
