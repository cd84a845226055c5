import { ProblemException } from './problem.js';

/** Refuses a form that began with another version than there is: somebody saved meanwhile. A form without one began with this. */
export function refuseIfChanged(version: number, begunWith: number | undefined): void {
  if (begunWith !== undefined && begunWith !== version) throw new ProblemException('changed-meanwhile');
}
