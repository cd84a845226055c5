import { createServer } from 'node:net';

/** A port on loopback that nobody listens on now; the wanted one if it is free. */
export async function freePort(wanted = 0): Promise<number> {
  return (await tryPort(wanted)) ?? (await tryPort(0)) ?? Promise.reject(new Error('No free port.'));
}

export async function isFree(port: number): Promise<boolean> {
  return (await tryPort(port)) !== undefined;
}

function tryPort(port: number): Promise<number | undefined> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(undefined));
    server.listen(port, '127.0.0.1', () => {
      const { port: got } = server.address() as { port: number };
      server.close(() => resolve(got));
    });
  });
}
