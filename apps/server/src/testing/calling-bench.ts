import type { SaidView, SessionView } from '@mistpeak/contract/sessions';
import { Ax25Station } from './ax25-station.js';
import { linkedBench, type LinkedBench } from './linked-bench.js';
import { MovedClock } from './moved-clock.js';
import { OPERATOR, ServerUp, TEST_CALL, until } from './server-up.js';

export const ME = TEST_CALL;
export const PARAMETERS = {
  packetOctets: 16,
  window8: 4,
  window128: 32,
  t1Ms: 5000,
  t2Ms: 100,
  t3Ms: 300_000,
  retries: 3,
  extended: false,
};

export interface Both {
  readonly id: string;
  readonly far: Ax25Station;
}

const base64 = (text: string): string => Buffer.from(text, 'latin1').toString('base64');

/** A server whose clock is moved, an operator, and stations at the other end of its link that the test plays. */
export class CallingBench {
  readonly clock = new MovedClock();
  readonly bench: LinkedBench;
  private stations = 0;

  constructor() {
    this.bench = linkedBench({ clock: this.clock });
    beforeAll(() => this.bench.server.ask('PUT', '/operator', OPERATOR));
  }

  arm(call = ME): Promise<true> {
    return until('the lock', async () => {
      const { status } = await this.bench.server.ask('PUT', `/links/${this.bench.link.id}/lock`, { call });
      return status === 200 ? true : undefined;
    });
  }

  async lock(): Promise<void> {
    await this.bench.server.ask('DELETE', `/links/${this.bench.link.id}/lock`);
  }

  async restart(): Promise<void> {
    await this.bench.server.close();
    this.bench.server = await ServerUp.on(this.bench.databaseUrl, { clock: this.clock });
  }

  station(
    call = `1X9S${String.fromCharCode(65 + this.stations++)}`,
    other = ME,
    via: readonly string[] = [],
  ): Ax25Station {
    return new Ax25Station(this.bench.peer, call, other, via);
  }

  called(to: string, more: object = {}): object {
    return { from: ME, to, via: '', linkId: this.bench.link.id, parameters: PARAMETERS, ...more };
  }

  /** A station that nobody has talked to yet, and a session with it that is asked for. */
  async calling(more: object = {}, via: readonly string[] = []): Promise<Both> {
    const far = this.station(undefined, ME, via);
    const { body, status } = await this.bench.server.ask<SessionView>(
      'POST',
      '/sessions',
      this.called(far.call, more),
    );
    if (status !== 201) throw new Error(JSON.stringify(body));
    return { id: body.id, far };
  }

  async connected(more: object = {}): Promise<Both> {
    const both = await this.calling(more);
    await both.far.expect('SABM P');
    both.far.ua();
    await this.once(both.id, 'the connection', ({ phase }) => phase === 'connected');
    return both;
  }

  async ended({ id, far }: Both): Promise<void> {
    far.disc();
    await this.once(id, 'its end', ({ phase }) => phase === 'disconnected');
  }

  async view(id: string): Promise<SessionView> {
    return (await this.bench.server.ask<SessionView>('GET', `/sessions/${id}`)).body;
  }

  once(id: string, what: string, isSo: (one: SessionView) => boolean): Promise<SessionView> {
    return until(what, async () => {
      const now = await this.view(id);
      return isSo(now) ? now : undefined;
    });
  }

  say(id: string, text: string, more: object = {}): Promise<unknown> {
    return this.bench.server.ask('POST', `/sessions/${id}/say`, { base64: base64(text), ...more });
  }

  async said(id: string): Promise<SaidView[]> {
    return (await this.bench.server.ask<SaidView[]>('GET', `/sessions/${id}/said`)).body;
  }

  async heardText(id: string): Promise<string> {
    const theirs = (await this.said(id)).filter(({ side }) => side === 'theirs');
    return theirs.map(({ hex }) => Buffer.from(hex, 'hex').toString('latin1')).join('');
  }
}
