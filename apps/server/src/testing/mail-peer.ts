import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { createHash } from 'node:crypto';
import { pack, unpack } from '@mistpeak/core/lzhuf/container';

/**
 * A mail gateway for tests alone, written from the public description of B2F and FBB forwarding; of ours it knows nothing but the packing, which
 * a general archive tool has read. It speaks over TCP, to one caller at a time, and can be told to misbehave.
 */
export interface PeerMail {
  readonly mid: string;
  readonly octets: Buffer;
}

export interface Misbehaviour {
  /** The connection is cut after so many octets of the caller’s, or of its own. */
  readonly cutAfterHeard?: number;
  readonly cutAfterSaid?: number;
  /** Falls silent instead of saying that. */
  readonly silentAt?: 'greeting' | 'answers' | 'turn' | 'blocks';
  readonly banner?: string;
  /** Said instead of the greeting, or of the first turn. */
  readonly refusal?: string;
  readonly refusesLogin?: boolean;
  /** What its blocks are changed into on the way. */
  readonly spoils?: (blocks: Buffer) => Buffer;
  /** Its answers, one sign for each proposal. */
  readonly answers?: string;
}

/** The published salt. */
const SALT = Buffer.from(
  '4dc565cebef95dc833f35ded475eef8a446c46b9e189d910337ac130c2c3c6afaca946543d3e68ba72343da84281c0d0bbf9e8c12971292df0101de4d0e43d14',
  'hex',
);

export class MailPeer {
  readonly received: PeerMail[] = [];
  waiting: PeerMail[] = [];
  heard = '';
  sessions = 0;
  challenge: string | undefined = '23753528';
  password = 'seabird';
  misbehaves: Misbehaviour = {};
  private putOff: string[] = [];
  private readonly parts = new Map<string, Buffer>();
  private readonly sockets = new Set<Socket>();
  private socket: Socket | undefined;
  private said = 0;

  private constructor(
    private readonly server: Server,
    readonly port: number,
  ) {}

  static async listen(): Promise<MailPeer> {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const peer = new MailPeer(server, (server.address() as AddressInfo).port);
    server.on('connection', (socket) => peer.serve(socket));
    return peer;
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise((resolve) => this.server.close(resolve));
  }

  private serve(socket: Socket): void {
    this.socket = socket;
    this.sockets.add(socket);
    this.said = 0;
    this.putOff = [];
    this.heard = '';
    this.sessions++;
    let input = Buffer.alloc(0);
    const waiters: (() => void)[] = [];
    let isOver = false;
    socket.on('error', () => undefined);
    socket.on('data', (octets: Buffer) => {
      this.heard += octets.toString('latin1');
      input = Buffer.concat([input, octets]);
      if (this.heard.length >= (this.misbehaves.cutAfterHeard ?? Infinity)) socket.destroy();
      waiters.splice(0).forEach((wake) => wake());
    });
    socket.on('close', () => {
      isOver = true;
      waiters.splice(0).forEach((wake) => wake());
    });
    const more = async (): Promise<void> => {
      if (isOver) throw new Error('over');
      await new Promise<void>((resolve) => waiters.push(resolve));
    };
    const line = async (): Promise<string> => {
      while (!input.includes(13)) await more();
      const end = input.indexOf(13);
      const text = input.toString('latin1', 0, end).replace(/^\n/, '');
      input = input.subarray(end + 1);
      return text;
    };
    const octets = async (count: number): Promise<Buffer> => {
      while (input.length < count) await more();
      const taken = Buffer.from(input.subarray(0, count));
      input = input.subarray(count);
      return taken;
    };
    this.converse(line, octets).catch(() => socket.destroy());
  }

  private say(text: string | Buffer): void {
    const octets = Buffer.isBuffer(text) ? text : Buffer.from(`${text}\r`, 'latin1');
    const left = (this.misbehaves.cutAfterSaid ?? Infinity) - this.said;
    this.said += octets.length;
    if (octets.length >= left) {
      this.socket?.write(octets.subarray(0, Math.max(0, left)), () => this.socket?.destroy());
      throw new Error('cut');
    }
    this.socket?.write(octets);
  }

  private async converse(
    line: () => Promise<string>,
    octets: (count: number) => Promise<Buffer>,
  ): Promise<void> {
    const { banner, refusal, silentAt, refusesLogin } = this.misbehaves;
    if (silentAt === 'greeting') return;
    if (banner !== undefined) this.say(banner);
    if (refusal !== undefined) {
      this.say(refusal);
      this.socket?.end();
      return;
    }
    this.say('[Peer-3.2-B2FHM$]');
    if (this.challenge !== undefined) this.say(`;PQ: ${this.challenge}`);
    this.say('PEER >');
    let answer: string | undefined;
    let theyAreDone = false;
    for (;;) {
      // Their turn.
      const proposals: { mid: string; packed: number; line: string }[] = [];
      for (;;) {
        const text = await line();
        if (text.startsWith(';PR: ')) answer = text.slice(5);
        if (text.startsWith(';') || text.startsWith('[') || text === '') continue;
        if (text === 'FQ') return void this.socket?.end();
        if (this.challenge !== undefined && (refusesLogin || answer !== this.answerOf(this.challenge))) {
          this.say('*** Secure login failed - account password does not match');
          this.socket?.end();
          return;
        }
        if (text === 'FF') {
          theyAreDone = true;
          break;
        }
        if (text.startsWith('FC EM ')) {
          const [, , mid = '', , packed = '0'] = text.split(' ');
          proposals.push({ mid, packed: Number(packed), line: text });
        } else if (text.startsWith('F> ')) {
          const sum = proposals.reduce(
            (all, one) => all + [...Buffer.from(`${one.line}\r`)].reduce((a, b) => a + b, 0),
            0,
          );
          if (((sum + Number.parseInt(text.slice(3), 16)) & 0xff) !== 0) throw new Error('checksum');
          break;
        } else throw new Error(`unexpected: ${text}`);
      }
      if (proposals.length > 0) {
        theyAreDone = false;
        await this.take(proposals, octets);
      }
      if (this.misbehaves.silentAt === 'turn') return;
      // Ours.
      const offered = this.waiting.filter(({ mid }) => !this.putOff.includes(mid)).slice(0, 5);
      if (offered.length === 0) {
        this.say(theyAreDone ? 'FQ' : 'FF');
        if (theyAreDone) return void this.socket?.end();
        continue;
      }
      await this.offer(offered, line);
    }
  }

  private answerOf(challenge: string): string {
    const hash = createHash('md5').update(challenge).update(this.password).update(SALT).digest();
    return String(hash.readUInt32LE(0) & 0x3fffffff)
      .padStart(8, '0')
      .slice(-8);
  }

  private async take(
    proposals: readonly { mid: string; packed: number }[],
    octets: (count: number) => Promise<Buffer>,
  ): Promise<void> {
    if (this.misbehaves.silentAt === 'answers') await new Promise(() => undefined);
    const signs = proposals.map(({ mid }, i) => {
      const given = this.misbehaves.answers?.[i];
      if (given !== undefined) return given;
      if (this.received.some((one) => one.mid === mid)) return '-';
      const part = this.parts.get(mid);
      return part && part.length > 6 ? `!${part.length}` : '+';
    });
    this.say(`FS ${signs.join('')}`);
    for (const [i, { mid }] of proposals.entries()) {
      const sign = signs[i] as string;
      if (sign !== '+' && !sign.startsWith('!')) continue;
      const offset = sign === '+' ? 0 : Number(sign.slice(1));
      const head = await octets(2);
      if (head[0] !== 1) throw new Error('no title');
      const title = await octets(head[1] as number);
      if (title.toString('latin1').split('\0')[1] !== String(offset)) throw new Error('another offset');
      let packed = offset > 0 ? Buffer.from(this.parts.get(mid)!.subarray(0, offset)) : Buffer.alloc(0);
      let skip = offset > 0 ? 6 : 0;
      let sum = 0;
      for (;;) {
        const [mark, count] = [...(await octets(2))] as [number, number];
        if (mark === 4) {
          if (((sum + count) & 0xff) !== 0) throw new Error('checksum of a block');
          break;
        }
        if (mark !== 2) throw new Error('no block');
        const data = await octets(count === 0 ? 256 : count);
        sum += data.reduce((a, b) => a + b, 0);
        packed = Buffer.concat([packed, data.subarray(Math.min(skip, data.length))]);
        skip = Math.max(0, skip - data.length);
        this.parts.set(mid, packed);
      }
      const message = unpack(new Uint8Array(packed));
      if ('malformed' in message) throw new Error(message.malformed);
      this.received.push({ mid, octets: Buffer.from(message) });
      this.parts.delete(mid);
    }
  }

  private async offer(offered: readonly PeerMail[], line: () => Promise<string>): Promise<void> {
    const all = offered.map(({ mid, octets }) => ({
      mid,
      octets,
      packed: Buffer.from(pack(new Uint8Array(octets))),
    }));
    const lines = all.map(({ mid, octets, packed }) => `FC EM ${mid} ${octets.length} ${packed.length} 0`);
    const sum = lines.reduce((a, text) => a + [...Buffer.from(`${text}\r`)].reduce((x, y) => x + y, 0), 0);
    for (const { mid, packed } of all) this.say(`;PM: QH4MPK ${mid} ${packed.length} SERVICE waiting ${mid}`);
    for (const text of lines) this.say(text);
    this.say(`F> ${(-sum & 0xff).toString(16).toUpperCase().padStart(2, '0')}`);
    let answer = await line();
    while (answer.startsWith(';')) answer = await line();
    const signs = answer.slice(3).match(/!\d+|./g) ?? [];
    if (this.misbehaves.silentAt === 'blocks') await new Promise(() => undefined);
    for (const [i, { packed, mid }] of all.entries()) {
      const sign = signs[i] ?? '';
      if (sign !== '+' && !sign.startsWith('!')) continue;
      const offset = sign === '+' ? 0 : Number(sign.slice(1));
      const data = offset > 0 ? Buffer.concat([packed.subarray(0, 6), packed.subarray(offset)]) : packed;
      const head = Buffer.from(`${mid}\0${offset}\0`, 'latin1');
      const parts = [Buffer.from([1, head.length]), head];
      for (let at = 0; at < data.length; at += 125) {
        const part = data.subarray(at, at + 125);
        parts.push(Buffer.from([2, part.length]), part);
      }
      parts.push(Buffer.from([4, -data.reduce((a, b) => a + b, 0) & 0xff]));
      const blocks = Buffer.concat(parts);
      this.say(this.misbehaves.spoils?.(blocks) ?? blocks);
    }
    // Their next turn confirms: what they did not want stays theirs to say.
    this.putOff.push(...all.filter((_, i) => signs[i] === '=').map(({ mid }) => mid));
    const settled = all.filter((_, i) => signs[i] !== '=');
    this.confirmLater(settled.map(({ mid }) => mid));
  }

  private confirmLater(mids: readonly string[]): void {
    const socket = this.socket;
    const before = this.heard.length;
    const look = (): void => {
      if (!/F[FCQ>]/.test(this.heard.slice(before))) return;
      this.waiting = this.waiting.filter(({ mid }) => !mids.includes(mid));
      socket?.off('data', look);
    };
    socket?.on('data', look);
  }
}

/** A message of that description, for whoever. */
export function peerMail(
  mid: string,
  text = 'from the cliffs',
  more: Partial<{ from: string; to: string; subject: string }> = {},
): PeerMail {
  const { from = 'QH7CTA', to = 'QH4MPK', subject = `about ${mid}` } = more;
  const lines = [
    `Mid: ${mid}`,
    'Date: 2026/05/03 18:40',
    'Type: Private',
    `From: ${from}`,
    `To: ${to}`,
    `Subject: ${subject}`,
    `Mbo: ${from}`,
  ];
  return {
    mid,
    octets: Buffer.from(`${[...lines, `Body: ${text.length}`].join('\r\n')}\r\n\r\n${text}`, 'latin1'),
  };
}
