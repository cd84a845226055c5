import { chainTitle } from '../chain/rank.js';
import type { Chain } from '../chain/chain.js';
import { PURPOSES } from '../proof/ladder.js';
import type { Sheet, SheetStep } from './sheet.js';

/** What the operator ticked: when, and what was measured or noted. */
export interface StepTick {
  readonly stepId: string;
  readonly isDone: boolean;
  readonly atMs: number;
  readonly measured: string;
  readonly note: string;
}

/** A step that sets a switch is open again when the kit says that the switch stands otherwise. */
export const isStepDone = ({ now, set }: SheetStep, tick: StepTick | undefined): boolean =>
  tick?.isDone === true && !(now !== undefined && set !== undefined);

export const SHEET_FORMAT = 'mistpeak-setup-sheet';

/** The last word on each step. */
export function standingTicks(ticks: readonly StepTick[]): ReadonlyMap<string, StepTick> {
  const last = new Map<string, StepTick>();
  for (const tick of ticks) {
    const known = last.get(tick.stepId);
    if (!known || known.atMs <= tick.atMs) last.set(tick.stepId, tick);
  }
  return last;
}

const stamp = (atMs: number): string => `${new Date(atMs).toISOString().slice(0, 16).replace('T', ' ')} UTC`;

/** A line of text cannot end a Markdown item: what would be read as markup is escaped. */
const plain = (text: string): string => text.replace(/\s+/g, ' ').replace(/([\\`*_[\]<>|#])/g, '\\$1');

/** The sheet as Markdown, with a box for each step, ticked where it is. */
export function sheetToMarkdown(chain: Chain, sheet: Sheet, ticks: ReadonlyMap<string, StepTick>): string {
  const lines = [`# ${plain(chainTitle(chain))}: ${PURPOSES[sheet.purpose].name}`, ''];
  lines.push(chain.stones.map(({ item }) => plain(item.name)).join(' – '), '');
  if (sheet.cautions.length > 0)
    lines.push('## Cautions', '', ...sheet.cautions.map(({ text }) => `- ${plain(text)}`), '');
  for (const { title, steps } of sheet.sections) {
    lines.push(`## ${plain(title)}`, '');
    for (const step of steps) {
      const { id, setting, value, reason, check, school, now } = step;
      const tick = ticks.get(id);
      const isDone = isStepDone(step, tick);
      lines.push(`- [${isDone ? 'x' : ' '}] **${plain(setting)}**: ${plain(value)}. ${plain(reason)}`);
      if (now) lines.push(`  Now: ${plain(now)}`);
      lines.push(`  Check: ${plain(check)}`);
      if (school) lines.push(`  School: ${plain(school.follows)}, good for ${plain(school.goodFor)}`);
      if (isDone && tick) lines.push(`  Done ${stamp(tick.atMs)}${told(tick)}`);
    }
    lines.push('');
  }
  if (sheet.routes.length > 0)
    lines.push(
      '## What leaves, by which way',
      '',
      ...sheet.routes.map(({ what, by, state }) => `- ${plain(what)}, by ${by}: ${plain(state)}`),
      '',
    );
  return lines.join('\n');
}

const told = ({ measured, note }: StepTick): string =>
  [measured, note]
    .filter(Boolean)
    .map((text) => `; ${plain(text)}`)
    .join('');

/** The sheet as JSON, versioned: docs/kit.md. */
export function sheetToJson(chain: Chain, sheet: Sheet, ticks: ReadonlyMap<string, StepTick>): string {
  const json = {
    format: SHEET_FORMAT,
    version: 1,
    purpose: sheet.purpose,
    parts: chain.stones.map(({ item }) => ({ name: item.name, kind: item.kind, version: item.version })),
    sections: sheet.sections.map(({ title, steps }) => ({
      device: title,
      steps: steps.map((one) => {
        const { id, set: _, ...step } = one;
        const tick = ticks.get(id);
        return {
          ...step,
          ...(tick && isStepDone(one, tick)
            ? { doneAt: new Date(tick.atMs).toISOString(), measured: tick.measured, note: tick.note }
            : {}),
        };
      }),
    })),
    routes: sheet.routes,
    cautions: sheet.cautions.map(({ text }) => text),
  };
  return `${JSON.stringify(json, null, 2)}\n`;
}
