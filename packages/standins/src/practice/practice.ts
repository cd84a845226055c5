import { ALL_WELL, type PracticeOrder } from '@mistpeak/core/drills/practice';
import type { ControlledRadio } from '../mail/controlled-radio.js';
import { practisedBehaviour } from '../tnc/faults.js';
import type { KissTnc } from '../tnc/kiss-tnc.js';
import type { World } from '../world/world.js';

/** Carries out what the practice world is told: each part of it that has a fault suffers from it. */
export class Practice {
  private now: PracticeOrder = ALL_WELL;

  constructor(
    private readonly world: Pick<World, 'suffer'>,
    private readonly tnc: Pick<KissTnc, 'behave'>,
    private readonly radio: Pick<ControlledRadio, 'choose'>,
  ) {}

  async obey(order: PracticeOrder): Promise<void> {
    // A TNC that was begun with a fault of its own keeps it until something is practised.
    const isIdle = order.faults.length === 0 && this.now.faults.length === 0;
    this.now = order;
    this.world.suffer(order);
    this.radio.choose(order.faults.includes('radio-control') ? 'B' : 'A');
    if (!isIdle) await this.tnc.behave(practisedBehaviour(order.faults));
  }
}
