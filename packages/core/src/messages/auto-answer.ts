import { LONGEST_MESSAGE } from '../aprs/message.js';
import { encodeQueryAnswer } from '../aprs/query-answer.js';
import type { Query } from '../aprs/report.js';

/** What this station answers by itself; each is off until it is switched on. */
export interface AutoAnswers {
  /** `?APRSD`: whom we hear direct. */
  readonly heardDirect: boolean;
  /** `?APRSH CALL`: how often we heard that station in each of the last hours. */
  readonly heardStation: boolean;
  /** `?APRST`, `?PING?`: the way by which the question came. */
  readonly way: boolean;
  /** `?APRSP`: our position, once. */
  readonly position: boolean;
  /** To every message for us; empty: none. */
  readonly text: string;
}

export const SILENT: AutoAnswers = {
  heardDirect: false,
  heardStation: false,
  way: false,
  position: false,
  text: '',
};

/** One answer a minute at most, whoever asks (ours: a courtesy to the channel). */
export const ANSWER_EVERY_MS = 60_000;

export interface Knowledge {
  readonly direct: readonly string[];
  /** By hour, the present one first. */
  readonly heardCounts: (call: string) => readonly number[] | undefined;
  /** Of the question, as `SRC>DST,PATH`. */
  readonly way: string;
}

/** A message back, or our position as it is beaconed. */
export type Answer = { readonly kind: 'text'; readonly text: string } | { readonly kind: 'position' };

/** The answer to a message for us; undefined: none. Answers bear no number, so that two automatons never answer each other's. */
export function answerTo(
  message: {
    readonly text: string;
    readonly query?: Query | undefined;
    readonly number?: string | undefined;
  },
  answers: AutoAnswers,
  { direct, heardCounts, way }: Knowledge,
): Answer | undefined {
  const { query } = message;
  if (!query) {
    // What bears no number wants no answer, and may be an answer itself.
    if (answers.text === '' || message.number === undefined) return undefined;
    return { kind: 'text', text: answers.text };
  }
  const text = (answer: Parameters<typeof encodeQueryAnswer>[0]): Answer => ({
    kind: 'text',
    text: encodeQueryAnswer(answer, LONGEST_MESSAGE),
  });
  switch (query.name) {
    case 'APRSD':
      return answers.heardDirect ? text({ to: 'APRSD', stations: direct }) : undefined;
    case 'APRSH': {
      const station = /^\?APRSH\s+(\S{3,9})/.exec(message.text)?.[1];
      const counts = station === undefined ? undefined : heardCounts(station);
      if (!answers.heardStation || station === undefined || !counts) return undefined;
      return text({ to: 'APRSH', station, counts });
    }
    case 'APRST':
    case 'PING':
      return answers.way ? text({ to: 'APRST', path: way }) : undefined;
    case 'APRSP':
      return answers.position ? { kind: 'position' } : undefined;
    default:
      return undefined;
  }
}
