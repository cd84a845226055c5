import { connect, createServer, type AddressInfo, type Server, type Socket } from 'node:net';

/** A radio with two bands at a control port. */
export class Radio {
  hz = 144_800_000;
  setsOther = false;
  readonly heard: string[] = [];

  private constructor(
    private readonly server: Server,
    readonly port: number,
  ) {}

  static async listen(): Promise<Radio> {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const radio = new Radio(server, (server.address() as AddressInfo).port);
    server.on('connection', (socket) =>
      socket.on('data', (octets: Buffer) => {
        for (const text of octets.toString().split('\r').filter(Boolean)) {
          radio.heard.push(text);
          if (text === 'FREQ?') socket.write(`FREQ ${radio.hz} BAND A\r`);
          else if (!radio.setsOther) radio.hz = Number(text.slice(5));
        }
      }),
    );
    return radio;
  }

  close(): void {
    this.server.close();
  }
}

/** Words of its own. */
export const WORDS = {
  setOwn: 'I AM {call}',
  askOwn: 'WHO',
  ownIs: 'YOU ARE {call}',
  connect: 'CALL {from} {to}',
  connected: 'TALKING TO {to}',
  busy: 'NOISE',
  clear: 'SILENCE',
  buffer: 'LEFT {octets}',
  disconnect: 'BYE',
  disconnected: 'ALONE',
  abort: '',
  refused: 'CANNOT {words}',
};

/** A modem program with words of its own; behind it a gateway over TCP. */
export class Program {
  readonly heard: string[] = [];
  own: string | undefined;
  refusal: string | undefined;
  commandPort = 0;
  dataPort = 0;
  private readonly servers: Server[] = [];
  private readonly sockets: Socket[] = [];
  private data: Socket | undefined;
  private far: Socket | undefined;

  static async listen(gatewayPort: number): Promise<Program> {
    const program = new Program();
    const command = createServer((socket) => {
      program.sockets.push(socket);
      let own = '';
      const tell = (text: string): unknown => socket.write(`${text}\r\n`);
      socket.on('error', () => undefined);
      socket.on('data', (octets: Buffer) => {
        for (const text of octets.toString().split('\r').filter(Boolean)) {
          program.heard.push(text);
          if (text.startsWith('I AM ')) own = program.own ?? text.slice(5);
          if (text === 'WHO') tell(`YOU ARE ${own}`);
          if (text === 'BYE') {
            program.far?.end();
            tell('ALONE');
          }
          if (!text.startsWith('CALL ')) continue;
          if (program.refusal !== undefined) {
            tell(program.refusal);
            continue;
          }
          const far = connect(gatewayPort, '127.0.0.1', () => {
            tell(`TALKING TO ${text.split(' ')[2]}`);
            far.on('data', (more: Buffer) => program.data?.write(more));
          });
          program.far = far;
        }
      });
    });
    const data = createServer((socket) => {
      program.sockets.push(socket);
      program.data = socket;
      socket.on('error', () => undefined);
      socket.on('data', (octets: Buffer) => {
        program.sockets.at(-2)?.write(`LEFT ${octets.length}\r\n`);
        program.far?.write(octets);
        program.sockets.at(-2)?.write('LEFT 0\r\n');
      });
    });
    for (const server of [command, data])
      await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    program.commandPort = (command.address() as AddressInfo).port;
    program.dataPort = (data.address() as AddressInfo).port;
    program.servers.push(command, data);
    return program;
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    this.far?.destroy();
    for (const server of this.servers) await new Promise((resolve) => server.close(resolve));
  }
}
