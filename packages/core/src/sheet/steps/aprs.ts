import type { SheetContext } from '../context.js';
import { where, type Step } from './step.js';

/** What a position or a message needs, on the radio itself or in an app. */
const sends = ({ kind }: SheetContext): boolean => kind.transmits && kind.isAprs;
const beacons = ({ chain }: SheetContext): boolean => chain.purpose === 'beacon';

export const PATH: Step = {
  id: 'path',
  setting: 'Path',
  value: (context) => where(sends(context), context.option('path')),
  reason:
    'In WIDEn-N the N is what is left: each digipeater takes one off. Each hop more multiplies the copies, which all take air time; duplicates are dropped, not saved. No path promises that it is heard.',
  check: 'An echo comes with a digipeater’s call marked as used.',
  school: 'path',
  source: 'New n-N paradigm (APRS addendum)',
};

export const BEACON: readonly Step[] = [
  {
    id: 'position',
    setting: 'Position',
    value: (context) =>
      where(
        beacons(context),
        context.isMoving ? 'from the GPS, with a fix' : 'by hand, or one fix of the GPS',
      ),
    reason: 'A position that moves by itself, or stands where you were, misleads whoever looks for you.',
    check: 'Compare it with a map.',
  },
  {
    id: 'symbol',
    setting: 'Symbol',
    value: (context) => where(beacons(context), 'what you are: on foot, car, house …'),
    reason: 'Others judge by it who it is that they see.',
    check: 'A map shows it as meant.',
    source: 'APRS Protocol Reference 1.0.1, symbols',
  },
  {
    id: 'comment',
    setting: 'Comment',
    value: (context) => where(beacons(context), context.option('announce')),
    reason: 'Each character is air time in every packet.',
    check: 'Read it once in a received packet.',
    school: 'announce',
  },
  {
    id: 'interval',
    setting: 'Beacon interval',
    value: (context) =>
      where(
        beacons(context),
        context.isMoving ? '2 min, or by speed and turns' : context.option('fixedBeacon'),
      ),
    reason: 'Beacons must not flood the channel; whoever stands still says nothing new.',
    check: 'After a test at a short interval, turn it back.',
    school: ({ isMoving }) => (isMoving ? undefined : 'fixedBeacon'),
  },
];

/** The ways of an app that knows the internet too: each its own line, since each has a switch of its own. */
export const WAYS: readonly Step[] = [
  {
    id: 'radioReceive',
    setting: 'Receive by radio',
    value: ({ kind }) => where(kind.isAprs, 'on'),
    reason: 'Some apps have a switch for each way; all four stand as wanted, or nothing is proved.',
    check: 'A packet is shown while the internet is off.',
  },
  {
    id: 'radioSend',
    setting: 'Send by radio',
    value: ({ kind }) => where(kind.isAprs, kind.transmits ? 'on' : 'off'),
    reason: ({ kind }) =>
      kind.transmits ? 'Else the app sends by internet only.' : 'This chain is to receive only.',
    check: ({ kind }) =>
      kind.transmits ? 'The radio keys for one packet.' : 'Nothing keys for ten minutes.',
  },
  {
    id: 'netReceive',
    setting: 'Receive by internet',
    value: (context) => where(context.kind.isAprs, context.option('internet')),
    reason: 'Stations that came by internet were not heard by your radio.',
    check: 'Only stations in reach are on the map.',
    school: 'internet',
  },
  {
    id: 'netSend',
    setting: 'Send by internet',
    value: ({ kind }) => where(kind.isAprs, 'off until the radio is proved'),
    reason: 'On the map is then no proof of radio.',
    check: 'The path on a server’s page shows a gateway’s call and qAR.',
    source: 'APRS-IS connection description',
  },
];
