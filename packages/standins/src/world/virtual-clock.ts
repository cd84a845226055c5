import { Timetable } from '@mistpeak/core/network/timetable';
import type { Clock } from '@mistpeak/link/clock';

/** Time that stands still until it is told to go on, event by event. */
export class VirtualClock extends Timetable implements Clock {}
