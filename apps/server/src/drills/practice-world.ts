import { once } from 'node:events';
import { connect } from 'node:net';
import { Inject, Injectable } from '@nestjs/common';
import { formatOrder, type PracticeOrder } from '@mistpeak/core/drills/practice';
import type { PracticeView } from '@mistpeak/contract/drills';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { ProblemException } from '../problems/problem.js';

const ANSWERS_WITHIN_MS = 5000;
const IS_UP_WITHIN_MS = 1000;

/** Where there is a world to practise in, and what it is told. */
@Injectable()
export class PracticeWorld {
  private wasBegun = false;

  constructor(@Inject(CONFIGURATION) private readonly configuration: Configuration) {}

  place(): PracticeView['place'] {
    const { practicePort, beside } = this.configuration;
    return practicePort !== undefined ? 'here' : beside ? 'beside' : 'none';
  }

  /** Has the world carry it out; refused where it is away or says no. */
  async order(order: PracticeOrder): Promise<void> {
    const port = this.configuration.practicePort;
    if (port === undefined) throw new ProblemException('no-practice-world');
    const socket = connect(port, '127.0.0.1');
    socket.setTimeout(ANSWERS_WITHIN_MS, () => socket.destroy(new Error('silent')));
    socket.once('end', () => socket.destroy(new Error('hung up')));
    try {
      socket.write(`${formatOrder(order)}\n`);
      const [answer] = (await once(socket, 'data')) as [Buffer];
      if (answer.toString('utf8') !== 'done\n') throw new Error(answer.toString('utf8'));
    } catch {
      throw new ProblemException('practice-world-away');
    } finally {
      socket.destroy();
    }
  }

  /** Whoever started us starts one beside; a second time it finds it there. */
  begin(): void {
    const { beside } = this.configuration;
    if (!beside) throw new ProblemException('no-practice-world');
    if (!this.wasBegun) beside.begin();
    this.wasBegun = true;
  }

  /** The page of the one beside, once it answers. */
  async besideAt(): Promise<string | undefined> {
    const { beside } = this.configuration;
    if (!beside || !this.wasBegun) return undefined;
    const address = `http://127.0.0.1:${beside.port}`;
    const isUp = await fetch(`${address}/api/v1/drills`, {
      signal: AbortSignal.timeout(IS_UP_WITHIN_MS),
    }).then(
      ({ ok }) => ok,
      () => false,
    );
    return isUp ? address : undefined;
  }
}
