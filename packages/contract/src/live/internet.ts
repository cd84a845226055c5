import type { InternetView } from '../internet.js';

/** The internet side. */
export interface InternetSnapshot {
  readonly internet: InternetView;
}

export interface InternetEvents {
  internet: InternetView;
}
