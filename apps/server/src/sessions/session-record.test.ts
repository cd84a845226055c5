import type { SessionView } from '@mistpeak/contract/sessions';
import { CallingBench, ME } from '../testing/calling-bench.js';
import pg from 'pg';
import { until } from '../testing/server-up.js';

const rig = new CallingBench();
const { bench, clock } = rig;

beforeAll(() => rig.arm());

describe('the record', () => {
  it('has every octet with its side, can be searched across frames, and exported', async () => {
    const both = await rig.connected({ frequencyMHz: 144.85 });
    both.far.i(0, 0, 'forty-one Te');
    both.far.i(1, 0, 'rns\r\x00\xe9\r');
    await rig.say(both.id, 'thanks\r');
    await rig.say(both.id, 'sesame\r', { isSecret: true });
    await until('all of it', async () => (await rig.said(both.id)).length === 4);
    await until('it on the air', () => both.far.heard().some(({ words }) => words.endsWith(':sesame\r')));
    const found = (await bench.server.ask<SessionView[]>('GET', '/sessions/search?text=one%20terns')).body;
    expect(found.map(({ id }) => id)).toEqual([both.id]);
    expect(
      (await bench.server.ask<SessionView[]>('GET', '/sessions/search?text=%C3%A9')).body.map(({ id }) => id),
    ).toContain(both.id);
    expect((await bench.server.ask('GET', '/sessions/search?text=sesame')).body).toEqual([]);
    expect((await bench.server.ask('GET', '/sessions/search?text=%20')).body).toEqual([]);
    await rig.ended(both);
    const file = async (form: string): Promise<Buffer> =>
      Buffer.from(
        await (
          await fetch(`http://127.0.0.1:${bench.server.port}/api/v1/sessions/${both.id}/export/${form}`)
        ).arrayBuffer(),
      );
    expect((await file('binary')).toString('latin1')).toBe('forty-one Terns\r\x00\xe9\r');
    const text = (await file('text')).toString();
    expect(text).toMatch(`Session of ${ME} with ${both.far.call}`);
    expect(text).toMatch(/ \S+: forty-one Terns\n/);
    expect(text).toMatch(`${ME}: *******`);
    expect(text).toMatch(`ended by ${both.far.call}`);
    expect((await file('adif')).toString()).toMatch(`<CALL:5>${both.far.call}<STATION_CALLSIGN:6>${ME}`);
    expect((await file('adif')).toString()).toMatch('<FREQ:8>144.8500');
    expect((await bench.server.ask('GET', `/sessions/${both.id}/export/zip`)).status).toBe(404);
    const silent = await rig.calling();
    await silent.far.expect('SABM P');
    silent.far.dm();
    await rig.once(silent.id, 'the refusal', ({ phase }) => phase === 'disconnected');
    expect((await bench.server.ask('GET', `/sessions/${silent.id}/export/adif`)).body).toMatchObject({
      reason: 'no-contact',
    });
  });
});

describe('after a stop', () => {
  it('a session is told as lost, and the far end is told once the lock is open for that call', async () => {
    const both = await rig.connected();
    await rig.say(both.id, 'a');
    await both.far.expect('I 0 0:a');
    await until('it to be kept', async () => (await rig.view(both.id)).sentOctets === 1);
    await rig.restart();
    expect(await rig.once(both.id, 'its end', ({ outcome }) => outcome !== undefined)).toMatchObject({
      outcome: 'lost: Mistpeak was stopped while it stood',
      lost: [{ fromOctet: 0, toOctet: 1 }],
    });
    expect((await rig.said(both.id)).map(({ hex }) => hex)).toEqual(['61']);
    await rig.arm(`${ME}-5`);
    expect(both.far.pendingWords()).toEqual([]);
    await rig.lock();
    await rig.arm();
    await both.far.expect('DISC P');
    both.far.dm();
  });

  it('more than five minutes later the far end has found out by itself', async () => {
    const both = await rig.connected();
    await until('it to be kept', async () => {
      const client = new pg.Client({ connectionString: bench.databaseUrl });
      await client.connect();
      const { rows } = await client.query('SELECT 1 FROM session WHERE id = $1 AND ended_at IS NULL', [
        both.id,
      ]);
      await client.end();
      return rows.length === 1;
    });
    await rig.restart();
    clock.pass(5 * 60_000 + 1000);
    await rig.arm();
    const far = rig.station('1X9LST', ME);
    far.sabm();
    await far.expect('DM F');
    expect(both.far.pendingWords()).toEqual([]);
  });
});
