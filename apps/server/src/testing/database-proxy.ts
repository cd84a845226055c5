import { connect, createServer, type Server, type Socket } from 'node:net';

/** A way to the database that a test can cut and mend. */
export class DatabaseProxy {
  private server: Server | undefined;
  private readonly sockets = new Set<Socket>();
  private port = 0;

  private constructor(private readonly target: URL) {}

  static async to(url: string): Promise<DatabaseProxy> {
    const proxy = new DatabaseProxy(new URL(url));
    await proxy.mend();
    return proxy;
  }

  get url(): string {
    const url = new URL(this.target);
    url.host = `127.0.0.1:${this.port}`;
    return url.href;
  }

  async cut(): Promise<void> {
    const { server } = this;
    for (const socket of this.sockets) socket.destroy();
    await new Promise((resolve) => server?.close(resolve));
  }

  mend(): Promise<void> {
    const server = createServer((socket) => {
      const far = connect(Number(this.target.port), this.target.hostname);
      for (const [one, other] of [
        [socket, far],
        [far, socket],
      ] as const) {
        this.sockets.add(one);
        one.on('error', () => one.destroy());
        one.on('close', () => {
          this.sockets.delete(one);
          other.destroy();
        });
        one.pipe(other);
      }
    });
    this.server = server;
    return new Promise((resolve) =>
      server.listen(this.port, '127.0.0.1', () => {
        this.port = (server.address() as { port: number }).port;
        resolve();
      }),
    );
  }
}
