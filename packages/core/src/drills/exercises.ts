import { seededDice } from '../network/dice.js';
import type { PracticeOrder } from './practice.js';

/** What is practised with nothing hidden: a task, and evidence of each of its steps. */
export const EXERCISE_IDS = ['tally', 'relay'] as const;
export type ExerciseId = (typeof EXERCISE_IDS)[number];

export interface Step {
  readonly words: string;
  readonly isDone: boolean;
}

/** Of the practice world, as the operator has it: gateways in the order in which they are called. */
export interface Island {
  readonly ownCall: string;
  readonly gateways: readonly string[];
  /** Who gathers the tallies, by mail. */
  readonly gathers: string;
  /** Who asks for the relay, and to whom it is to go. */
  readonly asks: string;
  readonly reaches: string;
}

/** `6 lamps and 40 m of rope to hide 2`: other figures each time, so that no old message counts. */
export function relayText(seed: number): string {
  const throwDice = seededDice(seed);
  const figure = (from: number, to: number): number => from + Math.floor(throwDice() * (to - from + 1));
  return `${figure(2, 19)} lamps and ${figure(2, 9) * 10} m of rope to hide ${figure(1, 6)}`;
}

export function exerciseTask(exercise: ExerciseId, { gateways, gathers, asks, reaches }: Island): string {
  return exercise === 'tally'
    ? `Send this evening’s tally by radio mail to ${gathers}, with “Tally” in its subject. ${gateways[0]} and ${gateways[1]} have trouble this evening: go on to ${gateways[2]}.`
    : `${asks} will ask you to relay a message to ${reaches}, who does not hear him. Hand it on word for word with his call in it, and tell him when it has arrived.`;
}

/** The world for it. */
export function exerciseOrder(exercise: ExerciseId, seed: number, island: Island): PracticeOrder {
  const { gateways, ownCall, asks, reaches } = island;
  if (exercise === 'relay')
    return {
      faults: [],
      gateways: {},
      says: { from: asks, to: ownCall, text: `pse relay ${reaches}: ${relayText(seed)}` },
    };
  const [first, second, third] = gateways;
  return {
    faults: [],
    gateways: {
      ...(first ? { [first]: 'silent' } : {}),
      ...(second ? { [second]: 'without service' } : {}),
      ...(third ? { [third]: 'serves' } : {}),
    },
  };
}

/** Since it began. runs: mail sessions, with the subjects that were taken at the end of them. */
export interface TallyEvidence {
  readonly written: readonly { readonly subject: string; readonly to: readonly string[] }[];
  readonly runs: readonly {
    readonly attempts: readonly { readonly gateway: string; readonly isDone: boolean }[];
    readonly takenSubjects: readonly string[];
  }[];
}

const isTally = (subject: string): boolean => /\btally\b/i.test(subject);

export function tallySteps({ written, runs }: TallyEvidence, { gateways, gathers }: Island): Step[] {
  const [first = '', second = '', third = ''] = gateways;
  const called = (call: string): boolean =>
    runs.some(({ attempts }) => attempts.some(({ gateway }) => gateway === call));
  return [
    {
      words: `The tally is written to ${gathers}`,
      isDone: written.some(
        ({ subject, to }) =>
          isTally(subject) && to.some((one) => one.split('@')[0]?.toUpperCase() === gathers),
      ),
    },
    { words: `${first} was called`, isDone: called(first) },
    { words: `${second} was called`, isDone: called(second) },
    {
      words: `${third} has taken it`,
      isDone: runs.some(
        ({ attempts, takenSubjects }) =>
          takenSubjects.some(isTally) && attempts.some(({ gateway, isDone }) => gateway === third && isDone),
      ),
    },
  ];
}

/** Since it began. */
export interface RelayEvidence {
  readonly received: readonly { readonly from: string; readonly text: string }[];
  readonly sent: readonly { readonly to: string; readonly text: string; readonly isAcknowledged: boolean }[];
}

export function relaySteps(
  { received, sent }: RelayEvidence,
  seed: number,
  { asks, reaches }: Island,
): Step[] {
  const words = relayText(seed);
  const handedOn = sent.filter(({ to, text }) => to === reaches && isWordForWord(text, words));
  const base = asks.split('-')[0] as string;
  return [
    {
      words: `${asks} has asked`,
      isDone: received.some(({ from, text }) => from === asks && text.includes(words)),
    },
    { words: `Handed on to ${reaches}, word for word`, isDone: handedOn.length > 0 },
    {
      words: `It says that it comes from ${asks}`,
      isDone: handedOn.some(({ text }) => text.toUpperCase().includes(base)),
    },
    {
      words: `${reaches} has acknowledged it`,
      isDone: handedOn.some(({ isAcknowledged }) => isAcknowledged),
    },
    {
      words: `${asks} knows that it has arrived`,
      isDone: sent.some(({ to, isAcknowledged }) => to === asks && isAcknowledged),
    },
  ];
}

/** Small and capital letters and the number of blanks are nobody's concern. */
const isWordForWord = (text: string, words: string): boolean => {
  const even = (one: string): string => one.toLowerCase().replace(/\s+/g, ' ');
  return even(text).includes(even(words));
};
