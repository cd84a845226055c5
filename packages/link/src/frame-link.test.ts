import { concatOctets, fromHex, toHex } from '@mistpeak/core/bits/octets';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { AsyncQueue } from './async-queue.js';
import type { ByteLink } from './byte-link.js';
import { failureOf, LinkFailed } from './failure.js';
import { FRAME_PAUSE_MS, overBytes, type LinkEvent } from './frame-link.js';
import { standInSignature } from './stand-in-signature.js';

const hex = (text: string): Uint8Array => fromHex(text) as Uint8Array;

/** A wire that plays what it is given and keeps what it is sent. */
function wireOf(chunks: readonly Uint8Array[], failure?: Error): ByteLink & { sent: string[] } {
  const receive = new AsyncQueue<Uint8Array>();
  chunks.forEach((chunk) => receive.push(chunk));
  receive.end(failure);
  const sent: string[] = [];
  return {
    receive,
    sent,
    send: (octets) => Promise.resolve(void sent.push(toHex(octets))),
    close: () => Promise.resolve(),
  };
}

/** upMs: what the clock shows at each reading. */
async function eventsOf(wire: ByteLink, upMs = (): number => 42): Promise<LinkEvent[]> {
  const events: LinkEvent[] = [];
  for await (const event of overBytes(wire, { nowMs: () => 42, upMs, after: () => () => undefined }).receive)
    events.push(event);
  return events;
}

describe('a frame link over octets', () => {
  it.each([
    ['a frame that goes on after a short pause is one', FRAME_PAUSE_MS, ['frame aabb']],
    ['after a long one it was cut off, and text is text', FRAME_PAUSE_MS + 1, ['discard 00aa', 'discard bb']],
  ])('%s', async (_, pauseMs, expected) => {
    let upMs = -pauseMs;
    const wire = wireOf([hex('c000aa'), hex('bbc0')]);
    const events = await eventsOf(wire, () => (upMs += pauseMs));
    expect(events.map((event) => `${event.kind} ${'raw' in event ? toHex(event.raw) : ''}`)).toEqual(
      expected,
    );
  });

  it('two frames that share one FEND are two, however long the second is waited for', async () => {
    let upMs = 0;
    const wire = wireOf([hex('c000aac0'), hex('00bbc0')]);
    const events = await eventsOf(wire, () => (upMs += FRAME_PAUSE_MS + 1));
    expect(events.map(({ kind }) => kind)).toEqual(['frame', 'frame']);
  });

  it('stamps frames, tells a stand-in by its own word, and counts what is no frame', async () => {
    const stream = concatOctets(
      encodeKiss(standInSignature),
      hex('c000aabbc0'),
      hex('c0011ec0'),
      hex('c00601c0'),
      hex('c000'),
    );
    expect(await eventsOf(wireOf([stream.slice(0, 7), stream.slice(7)]))).toEqual([
      { kind: 'stand-in', atMs: 42 },
      { kind: 'frame', atMs: 42, port: 0, raw: hex('aabb') },
      { kind: 'discard', atMs: 42, reason: 'unexpected command', octets: 2, raw: hex('011e') },
      { kind: 'hardware', atMs: 42, raw: hex('01') },
      { kind: 'discard', atMs: 42, reason: 'cut off', octets: 1, raw: hex('00') },
    ]);
  });

  it('sends KISS', async () => {
    const wire = wireOf([]);
    await overBytes(wire, { nowMs: () => 0, upMs: () => 0, after: () => () => undefined }).send({
      port: 3,
      raw: hex('c0'),
    });
    expect(wire.sent).toEqual(['c030dbdcc0']);
  });

  it('throws what the wire failed with', async () => {
    await expect(eventsOf(wireOf([hex('c000aac0')], new LinkFailed('unplugged')))).rejects.toMatchObject({
      failure: 'unplugged',
    });
  });
});

describe('a failure', () => {
  it.each([
    [{ code: 'ECONNREFUSED' }, 'refused'],
    [{ code: 'ENOTFOUND' }, 'no-such-host'],
    [{ code: 'EACCES' }, 'permission'],
    [{ message: 'Error: No such file or directory, cannot open /dev/x' }, 'no-such-device'],
    [{ message: 'Error Resource temporarily unavailable Cannot lock port' }, 'busy'],
    [{ message: 'something new' }, 'other'],
  ])('%j is %s', (error, failure) => expect(failureOf(error).failure).toBe(failure));
});
