import { appOf, chainState, findingsOf, itemsOf, type Chain, type Finding } from '../chain/chain.js';
import type { SheetContext, SheetFacts } from './context.js';
import type { Item, ItemKind } from '../kit/item.js';
import { SWITCHES } from '../kit/switches.js';
import { PURPOSES, type Purpose } from '../proof/ladder.js';
import { cautionsOf, type Caution } from './cautions.js';
import { routesOf, type Route } from './routes.js';
import { chosenOption, type SchoolChoices, type SchoolId } from './schools.js';
import { kindOf } from './kind-of-chain.js';
import { APP } from './steps/app.js';
import { HOST } from './steps/host.js';
import { BEFOREHAND } from './steps/mail.js';
import { RADIO } from './steps/radio.js';
import { told, type Step } from './steps/step.js';
import { CABLE, INTERFACE } from './steps/wiring.js';

/** Where practitioners differ: the question, and the answer that is followed here. */
export interface FollowedSchool {
  readonly id: SchoolId;
  readonly follows: string;
  readonly goodFor: string;
}

/** One line of the sheet. id: of the step and the item, so that a tick finds it again. */
export interface SheetStep {
  readonly id: string;
  readonly setting: string;
  readonly value: string;
  readonly reason: string;
  readonly check: string;
  readonly school?: FollowedSchool;
  readonly source: string;
  /** How it stands now where it must not, and which switch of the kit is set by doing it. */
  readonly now?: string;
  readonly set?: Finding['set'];
  /** What is measured is written down with the tick. */
  readonly measures?: string;
  /** Care that every such device needs, whatever the chain. */
  readonly isCare?: true;
}

export interface SheetSection {
  readonly item: Item;
  readonly title: string;
  readonly steps: readonly SheetStep[];
}

export interface Sheet {
  readonly purpose: Purpose;
  readonly title: string;
  readonly sections: readonly SheetSection[];
  readonly routes: readonly Route[];
  readonly cautions: readonly Caution[];
}

/** The order in which devices are set: radio first, then interface, host, app; cables are plugged with the interface. */
const ORDER: readonly ItemKind[] = ['radio', 'cable', 'interface', 'host', 'app'];

const STEPS: Readonly<Record<ItemKind, readonly Step[]>> = {
  radio: RADIO,
  cable: CABLE,
  interface: INTERFACE,
  host: HOST,
  app: APP,
  antenna: [],
};

/** The setup sheet of a chain: for each device its steps in order, the routes, and the cautions that apply. */
export function setupSheet(chain: Chain, facts: SheetFacts, choices: SchoolChoices): Sheet {
  const context: SheetContext = {
    ...facts,
    chain,
    kind: kindOf(chain),
    option: (school) => chosenOption(school, choices, chain).value,
  };
  const followed = (id: SchoolId): FollowedSchool => {
    const { name, goodFor } = chosenOption(id, choices, chain);
    return { id, follows: name, goodFor };
  };
  const items = [...itemsOf(chain)].sort(
    (a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind) || orderOfApps(a, b),
  );
  const app = appOf(chain);
  const sections = [
    { item: app, title: 'Days before', steps: stepsFrom(BEFOREHAND, app, context, followed) },
    ...items.map((item) => ({ item, title: item.name, steps: stepsOf(item, context, followed) })),
  ];
  return {
    purpose: chain.purpose,
    title: PURPOSES[chain.purpose].name,
    sections: sections.filter(({ steps }) => steps.length > 0),
    routes: routesOf(context),
    cautions: cautionsOf(context),
  };
}

/** Mistpeak last: it is set up on what the others give. */
const orderOfApps = (a: Item, b: Item): number =>
  Number(a.app?.isMistpeak ?? false) - Number(b.app?.isMistpeak ?? false);

/** What the planner found stands at the step that sets it; what no step sets comes first, common care last. */
function stepsOf(item: Item, context: SheetContext, followed: (id: SchoolId) => FollowedSchool): SheetStep[] {
  const found = findingsOf(context.chain).filter(
    ({ itemId, level, mend }) => itemId === item.id && level !== 'breaks' && mend !== undefined,
  );
  const steps = stepsFrom(STEPS[item.kind], item, context, followed);
  const isSetBy = ({ id }: SheetStep, { rule, set }: Finding): boolean =>
    id === `${item.id}/${set?.switch ?? rule}`;
  const besides = found.filter((finding) => !steps.some((step) => isSetBy(step, finding)));
  const withFindings = steps.map((step): SheetStep => {
    const finding = found.find((one) => isSetBy(step, one));
    if (!finding) return step;
    const { isCare: _, ...rest } = step;
    return { ...rest, now: finding.text, ...(finding.set ? { set: finding.set } : {}) };
  });
  return [
    ...besides.map((finding) => stepOfFinding(finding, item)),
    ...withFindings.filter(({ isCare }) => !isCare),
    ...withFindings.filter(({ isCare }) => isCare),
  ];
}

function stepsFrom(
  steps: readonly Step[],
  item: Item,
  context: SheetContext,
  followed: (id: SchoolId) => FollowedSchool,
): SheetStep[] {
  return steps.flatMap((step): SheetStep[] => {
    const value = step.value(context, item);
    if (value === undefined) return [];
    const school = typeof step.school === 'function' ? step.school(context) : step.school;
    return [
      {
        id: `${item.id}/${step.id}`,
        setting: step.setting,
        value,
        reason: told(step.reason, context, item),
        check: told(step.check, context, item),
        source: step.source ?? 'common practice, no source',
        ...(school ? { school: followed(school) } : {}),
        ...(step.measures ? { measures: step.measures } : {}),
        ...(step.isCare ? { isCare: true as const } : {}),
      },
    ];
  });
}

function stepOfFinding({ rule, text, mend = '', set }: Finding, item: Item): SheetStep {
  return {
    id: `${item.id}/${set?.switch ?? rule}`,
    setting: set ? SWITCHES[set.switch].name : 'Before all else',
    value: mend,
    reason: 'Without it nothing else shows anything.',
    check: 'It still stands so after switching the device off and on.',
    source: 'common practice, no source',
    now: text,
    ...(set ? { set } : {}),
  };
}

export const stepCount = ({ sections }: Sheet): number =>
  sections.reduce((sum, { steps }) => sum + steps.length, 0);

/** The schools that a sheet asks about, in the order of its steps. */
export const schoolsOf = ({ sections }: Sheet): readonly SchoolId[] => [
  ...new Set(sections.flatMap(({ steps }) => steps.flatMap(({ school }) => school?.id ?? []))),
];

/** A sheet is of use only for a chain that can work. */
export const canBeSetUp = (chain: Chain): boolean => chainState(chain) !== 'breaks';

/** The values of the sheet by setting, as they go into a trial. */
export const sheetValues = ({ sections }: Sheet): Readonly<Record<string, string>> =>
  Object.fromEntries(
    sections.flatMap(({ title, steps }) =>
      steps.map(({ setting, value }) => [`${title}, ${setting}`, value]),
    ),
  );
