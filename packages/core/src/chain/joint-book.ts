import type { Joint, Level } from './chain.js';
import { costOfJoints } from './costs.js';
import type { Demand } from './purpose.js';
import { jointTo, lastItem, type Step, type Walk } from './walk.js';

export interface Judged {
  readonly joint: Joint;
  readonly cost: number;
  readonly breaks: number;
}

/** Each joint is judged once: what the rules say of it does not depend on how one came there. */
export class JointBook {
  private readonly judgedJoints = new Map<string, Judged>();

  constructor(private readonly demand: Demand) {}

  judged(walk: Walk, step: Step): Judged {
    const { flow, host, service, stones, source } = walk;
    const out = step.out?.id ?? '';
    const first = stones.length === 1 ? source.port : '';
    const key = `${lastItem(walk).id}|${out}|${step.stone.item.id}|${step.stone.entered?.id}|${flow.signal}|${flow.transport}|${host?.id}|${service?.id}|${first}`;
    const known = this.judgedJoints.get(key);
    if (known) return known;
    const joint = jointTo(walk, step, this.demand);
    const judged = { joint, cost: costOfJoints([joint]), breaks: countLevel([joint], 'breaks') };
    this.judgedJoints.set(key, judged);
    return judged;
  }
}

export const countLevel = (joints: readonly Joint[], level: Level): number =>
  joints.reduce((sum, { findings }) => sum + findings.filter((one) => one.level === level).length, 0);
