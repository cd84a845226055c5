import { MovedClock } from './moved-clock.js';
import { makeDatabase, OPERATOR, ServerUp, type Page } from './server-up.js';
import type { Configuration } from '../configuration.js';
import type { LiveEvent, LiveKind } from '@mistpeak/contract/live';

type DataOf<Kind extends LiveKind> = Extract<LiveEvent, { kind: Kind }>['data'];

/** A server whose clock the test moves, an operator, and a page that follows: for all tests of a file. */
export class MovedServer {
  readonly clock = new MovedClock();
  server!: ServerUp;
  page!: Page;

  /** more: what else the launcher tells; asked when the tests begin. */
  static forAllTests(more: () => Promise<Partial<Configuration>> = () => Promise.resolve({})): MovedServer {
    const rig = new MovedServer();
    beforeAll(async () => {
      rig.server = await ServerUp.on(await makeDatabase(), { clock: rig.clock, ...(await more()) });
      await rig.server.ask('PUT', '/operator', OPERATOR);
      rig.page = rig.server.follow();
    });
    afterAll(async () => {
      rig.page.close();
      await rig.server.close();
    });
    return rig;
  }

  /** The last that the page was told of a subject. */
  latest<Kind extends LiveKind>(kind: Kind): DataOf<Kind> | undefined {
    const last = this.page.events.findLast((event) => event.kind === kind);
    return last?.data as DataOf<Kind> | undefined;
  }
}
