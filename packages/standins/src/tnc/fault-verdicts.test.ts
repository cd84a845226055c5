import { once } from 'node:events';
import { connect } from 'node:net';
import { decodeFrame, encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { ChainFacts } from '@mistpeak/core/diagnosis/causes';
import { heardFacts, type HeardPiece } from '@mistpeak/core/diagnosis/facts';
import { verdictOn, type Verdict } from '@mistpeak/core/diagnosis/verdict';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import { seededDice } from '@mistpeak/core/network/dice';
import type { Evidence, Rung } from '@mistpeak/core/proof/evidence';
import { climb, nextRung } from '@mistpeak/core/proof/ladder';
import { isStandInSignature } from '@mistpeak/link/stand-in-signature';
import { VirtualClock } from '../world/virtual-clock.js';
import { makeLand, makeWorld, OPERATOR_SET } from '../world/world.js';
import type { Fault } from './faults.js';
import { KissTnc } from './kiss-tnc.js';

const START_MS = Date.UTC(2026, 9, 12, 14);
const TICK_MS = 500;
const land = makeLand();
const BEACON = encodeFrame(
  parseMonitorText('QH4MPK>APZMPK,WIDE1-1,WIDE2-1:!2937.92S/01124.30W-hut') as Ax25Frame,
);

/** What was heard here in the ten minutes before: it says what is usual, and nothing of now. */
function heardBefore(): HeardPiece[] {
  const clock = new VirtualClock(START_MS - 600_000);
  const world = makeWorld(clock, 2, land);
  const heard: HeardPiece[] = [];
  world.channel.attach({
    name: OPERATOR_SET,
    hear: (octets) => void heard.push({ atMs: clock.nowMs(), octets }),
  });
  clock.advance(600_000);
  world.end();
  return heard;
}
const BEFORE = heardBefore();

/** A minute with a TNC that has this fault, and what the Bench says at each half second. sendAfterMs: a beacon goes out then. */
async function minuteWith(fault: Fault | undefined, sendAfterMs?: number): Promise<Verdict[]> {
  const clock = new VirtualClock(START_MS);
  const world = makeWorld(clock, 1, land);
  const tnc = new KissTnc({ channel: world.channel, clock, dice: seededDice(3), name: OPERATOR_SET, fault });
  const socket = connect(await tnc.listen(0), '127.0.0.1');
  await once(socket, 'connect');
  const heard: HeardPiece[] = [...BEFORE];
  const evidence: Evidence[] = [];
  const prove = (rung: Rung): void =>
    void evidence.push({ id: '', linkId: 'l', rung, atMs: clock.nowMs(), kind: 'frame', words: '' });
  prove('port open');
  const decoder = new KissDecoder();
  socket.on('data', (octets: Buffer) => {
    const atMs = clock.nowMs();
    for (const item of decoder.push(octets)) {
      if ('discarded' in item) heard.push({ atMs, octets: item.raw, trouble: item.discarded });
      else if (item.command === 'data') {
        const isPacket = !isMalformed(decodeFrame(item.payload));
        heard.push({ atMs, octets: item.payload, ...(isPacket ? {} : { trouble: 'not AX.25' }) });
        if (isPacket) prove('packet decoded');
      } else if (isStandInSignature(item)) prove('TNC talks');
    }
  });
  // KISS parameters go out on every opening.
  socket.write(Buffer.from('c0011ec0c0023fc0c0030ac0', 'hex'));
  const verdicts: Verdict[] = [];
  for (let passedMs = 0; passedMs <= 60_000; passedMs += TICK_MS) {
    if (passedMs === sendAfterMs) {
      socket.write(encodeKiss({ port: 0, command: 'data', payload: BEACON }));
      prove('handed to the TNC');
    }
    // Octets take real moments on a real socket.
    await new Promise((resolve) => setTimeout(resolve, 4));
    clock.advance(TICK_MS);
    verdicts.push(judge(heard, evidence, clock.nowMs()));
  }
  socket.destroy();
  await tnc.close();
  world.end();
  return verdicts;
}

function judge(heard: readonly HeardPiece[], evidence: readonly Evidence[], nowMs: number): Verdict {
  const camps = climb('beacon', evidence, { isOpen: true, isMoving: false, openedAtMs: START_MS }, nowMs);
  const facts: ChainFacts = {
    ...heardFacts(heard, START_MS, nowMs),
    linkKind: 'network',
    txDelayMs: 300,
    hopsAsked: 2,
    channelUse: 0.1,
  };
  const isDoubtful = camps.some(({ rung, state }) => rung === 'keyed' && state === 'doubtful');
  const verdict = verdictOn({ isOpen: true, next: nextRung(camps)?.rung, isDoubtful }, facts);
  if (!verdict) throw new Error('the link is open');
  return verdict;
}

const lastCause = (verdicts: readonly Verdict[]): string => verdicts.at(-1)?.causes[0]?.cause ?? '';

// common practice, no source: how practitioners trace these faults
describe('within a minute the first cause named is the true one', () => {
  it.each([
    ['kiss-off', /What comes is no KISS: packets as text/],
    ['text-prompt', /What comes is no KISS: command prompt/],
    ['deaf', /Nothing comes out of the receiver: another frequency or band, .*squelch.*volume.*half open/],
    ['half-open', /The link is half open: the far end is gone without a word/],
    ['losing-bytes', /Octets are lost between TNC and computer/],
  ] as const)('%s', async (fault, cause) => {
    const verdicts = await minuteWith(fault);
    expect(lastCause(verdicts)).toMatch(cause);
  });

  it('slow-to-open: while it says nothing, that it needs a while; then packets', async () => {
    const verdicts = await minuteWith('slow-to-open');
    expect(verdicts[10]?.causes[0]?.cause).toMatch(/some TNCs need a while before they speak/);
    expect(verdicts.at(-1)).toMatchObject({
      title: expect.stringMatching(/^Next: send/) as string,
      causes: [],
    });
  });

  it('not-keying: the radio did not key', async () => {
    expect(lastCause(await minuteWith('not-keying', 10_000))).toBe('The radio did not key.');
  });

  it('deaf, and a beacon was sent: still nothing of sending', async () => {
    const verdict = (await minuteWith('deaf', 10_000)).at(-1);
    expect(verdict?.title).toBe('Nothing is heard, so no echo can be');
    expect(verdict?.causes.map(({ cause }) => cause).join(' ')).not.toMatch(/key|TXDELAY|digipeater/);
    expect(verdict?.causes[0]?.test).toMatch(/Packets to be heard: .*Only noise: .*Nothing: /);
  });

  it('nothing is wrong: nothing is named, at no moment', async () => {
    const verdicts = await minuteWith(undefined);
    const named = new Set(verdicts.flatMap(({ title, causes }) => (causes.length > 0 ? [title] : [])));
    // At first a TNC may not have spoken, or no packet have come, yet.
    expect([...named].filter((title) => !title.startsWith('Next:'))).toEqual([]);
    expect(verdicts.at(-1)?.causes).toEqual([]);
  });
});
