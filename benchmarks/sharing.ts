import { connect, createServer, type Socket } from 'node:net';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { freePort } from '../apps/launcher/src/free-port.js';
import { Station } from './station.js';

const CLIENTS = 20;
const FRAMES = 20_000;
/** Frames on their way at once: more than any channel, less than what would only fill sockets. */
const WINDOW = 200;
const PINGS = 400;

const FRAME = encodeKiss({
  port: 0,
  command: 'data',
  payload: encodeFrame(
    parseMonitorText('QH7CTC-9>APZMPK,QH1ANR*,WIDE2-1:!2935.10S/01122.20W>038/018on the ridge') as Ax25Frame,
  ),
});

/** Frames from one TNC to twenty programs: through the share, which reads, records and passes each, and through a bare relay. */
export async function sharingBenchmark(): Promise<void> {
  const station = await Station.up();
  const port = await freePort();
  await station.share(port);
  const ours = await measure(station.peer, port);
  await station.down();
  const relay = await bareRelay();
  const bare = await measure(relay.upstream, relay.port);
  relay.close();
  const added = ours.delayMs - bare.delayMs;
  console.log(
    `  ${CLIENTS} programs: ${Math.round(ours.rate)} frames/s to each, a bare TCP relay ${Math.round(bare.rate)}: ratio ${(ours.rate / bare.rate).toFixed(2)}`,
  );
  console.log(
    `  delay of a frame to the last program ${ours.delayMs.toFixed(2)} ms, of the relay ${bare.delayMs.toFixed(2)} ms: ${added.toFixed(2)} ms added`,
  );
}

/** What the far end writes to the upstream socket comes out at every client of the port. */
async function measure(upstream: Socket, port: number): Promise<{ rate: number; delayMs: number }> {
  const counts = new Array<number>(CLIENTS).fill(0);
  let wake = (): void => undefined;
  const sockets = await Promise.all(
    counts.map(
      (_, i) =>
        new Promise<Socket>((resolve) => {
          const socket = connect(port, '127.0.0.1', () => resolve(socket));
          socket.setNoDelay(true);
          socket.on('data', (octets: Buffer) => {
            counts[i] = (counts[i] as number) + octets.length;
            wake();
          });
        }),
    ),
  );
  const all = async (frames: number): Promise<void> => {
    while (Math.min(...counts) < frames * FRAME.length)
      await new Promise<void>((resolve) => (wake = resolve));
  };
  // Long enough for the far side to have taken all clients.
  await new Promise((resolve) => setTimeout(resolve, 300));
  const delays: number[] = [];
  for (let i = 1; i <= PINGS; i++) {
    const begun = performance.now();
    upstream.write(FRAME);
    await all(i);
    delays.push(performance.now() - begun);
  }
  const begun = performance.now();
  for (let sent = 0; sent < FRAMES; sent += WINDOW) {
    for (let i = 0; i < WINDOW; i++) upstream.write(FRAME);
    await all(PINGS + sent + WINDOW);
  }
  const rate = FRAMES / ((performance.now() - begun) / 1000);
  for (const socket of sockets) socket.destroy();
  return { rate, delayMs: delays.sort((a, b) => a - b)[PINGS >> 1] as number };
}

/** One process, one upstream, every octet to every client: what sharing costs at the least. */
async function bareRelay(): Promise<{ upstream: Socket; port: number; close: () => void }> {
  const clients = new Set<Socket>();
  const server = createServer({ noDelay: true }, (socket) => {
    clients.add(socket);
    socket.on('error', () => undefined).on('close', () => clients.delete(socket));
  });
  const entry = createServer({ noDelay: true }, (socket) =>
    socket.on('data', (octets: Buffer) => {
      for (const client of clients) client.write(octets);
    }),
  );
  for (const one of [server, entry])
    await new Promise<void>((resolve) => one.listen(0, '127.0.0.1', resolve));
  const portOf = (one: typeof server): number => (one.address() as { port: number }).port;
  const upstream = connect(portOf(entry), '127.0.0.1');
  upstream.setNoDelay(true);
  const close = (): void => {
    upstream.destroy();
    server.close();
    entry.close();
  };
  return { upstream, port: portOf(server), close };
}
