import { fromHex } from '@mistpeak/core/bits/octets';
import { TrafficService, type Arrived, type Passing } from './traffic.service.js';
import { WAY_OF_A_FRAME } from './way-of-a-frame.js';

/** `N0CALL-7>APZMPK:>hi` */
const RAW = fromHex('82a0b49aa096e09c60868298986f03f03e6869') as Uint8Array;
const arrived = (raw: Uint8Array, atMs = 1000): Arrived => ({
  linkId: 'a',
  atMs,
  port: 2,
  raw,
  origin: 'kiss',
});

describe('the way of a frame', () => {
  it('is told to every subject in the order of the places, whoever came first', () => {
    const traffic = new TrafficService();
    const told: string[] = [];
    for (const place of [...WAY_OF_A_FRAME].reverse())
      traffic.take(place, { heard: () => told.push(place), sent: () => told.push(`sent ${place}`) });
    traffic.heard(arrived(RAW));
    expect(told).toEqual(WAY_OF_A_FRAME);
    traffic.sent(arrived(RAW));
    expect(told.slice(WAY_OF_A_FRAME.length)).toEqual(WAY_OF_A_FRAME.map((place) => `sent ${place}`));
  });

  it('goes on behind a subject that fails, and counts it', () => {
    const traffic = new TrafficService();
    const heard: Passing[] = [];
    traffic.take('record', {
      heard: () => {
        throw new Error('full');
      },
    });
    traffic.take('sharing', { heard: (frame) => heard.push(frame) });
    traffic.heard(arrived(RAW));
    expect([heard.length, traffic.failures]).toEqual([1, 1]);
  });

  it('reads each frame once: what it says, or why nothing', () => {
    const traffic = new TrafficService();
    const heard: Passing[] = [];
    traffic.take('record', { heard: (frame) => heard.push(frame) });
    traffic.heard(arrived(RAW));
    traffic.heard(arrived(RAW.slice(0, 9)));
    traffic.heard(arrived(fromHex('82a0b49aa096e09c60868298986f03f00102') as Uint8Array));
    expect(heard.map(({ trouble }) => trouble)).toEqual([undefined, 'not AX.25', 'not APRS']);
    expect(heard[0]).toMatchObject({ port: 2, origin: 'kiss', view: { frame: { source: 'N0CALL-7' } } });
    expect(heard[1]?.view).toBeUndefined();
  });

  it('reads the numbers of a connection as its setting up says, on each link by itself', () => {
    const traffic = new TrafficService();
    const heard: Passing[] = [];
    traffic.take('record', { heard: (frame) => heard.push(frame), sent: (frame) => heard.push(frame) });
    // From QH2HUT-1 to QH4MPK and back: SABME with P (7F), then RR with N(R) 5 in two octets (01 0A).
    const there = 'a290689aa09660a2906490aaa863';
    const back = 'a2906490aaa8e2a290689aa09661';
    const call = fromHex(`${there}7f`) as Uint8Array;
    const ready = fromHex(`${back}010a`) as Uint8Array;
    traffic.heard(arrived(ready));
    traffic.sent(arrived(call));
    traffic.heard(arrived(ready));
    traffic.heard({ ...arrived(ready), linkId: 'b' });
    expect(heard.map(({ modulo }) => modulo)).toEqual([8, 8, 128, 8]);
    expect(heard[2]?.view?.frame.control).toMatchObject({ kind: 'RR', nr: 5 });
  });

  it('gives ids in the order of coming, by time first', () => {
    const traffic = new TrafficService();
    const ids: string[] = [];
    traffic.take('record', { heard: ({ id }) => ids.push(id), scrap: ({ id }) => ids.push(id) });
    for (let i = 0; i < 300; i++) traffic.heard(arrived(RAW));
    traffic.scrap({ linkId: 'a', atMs: 1001, raw: RAW, reason: 'cut off' });
    expect([...ids].sort()).toEqual(ids);
    expect(new Set(ids).size).toBe(301);
  });
});
