import type { SheetContext } from '../context.js';
import { where, type Step } from './step.js';

/** Connected sessions and mail: whom to call, and how the first time goes. */
const mails = ({ kind }: SheetContext): boolean => kind.isGatewayMail;

/** What needs other people comes days before. */
export const BEFOREHAND: readonly Step[] = [
  {
    id: 'account',
    setting: 'Mail account',
    value: (context) => where(mails(context), 'made, its first password changed'),
    reason:
      'It needs a first exchange or another person, and may take days; a password that came in clear is known.',
    check: 'Log in once over the internet.',
  },
];

export const SESSION: readonly Step[] = [
  {
    id: 'farStation',
    setting: 'Far station',
    value: ({ kind }) => {
      if (kind.isPeerMail) return 'its call, its channel and an hour when it listens';
      return where(
        kind.isSession && kind.toApp !== 'text',
        'its call with SSID, and what is there: mailbox, node, a person',
      );
    },
    reason: 'A mistyped call gets no answer, as one that is out of reach.',
    check: 'Compare it with the calls that were heard.',
  },
  {
    id: 'connect',
    setting: 'To connect',
    value: ({ kind }) =>
      where(
        kind.isSession && kind.toApp === 'text',
        'Enter for the prompt, then C and the call with SSID, as C CALL-1',
      ),
    reason: 'A TNC with a command prompt is worked by lines of text.',
    check: 'It answers that it is connected, or that it gave up.',
  },
  {
    id: 'whoTypes',
    setting: 'Who types',
    value: ({ kind }) => where(kind.isSession || kind.isPeerMail, 'the control operator, or under his eyes'),
    reason: 'The call in force is that of whoever answers for the transmission.',
    check: 'The call that the TNC or program sends is his.',
  },
  {
    id: 'gateways',
    setting: 'Gateways',
    value: (context) =>
      where(
        mails(context),
        context.kind.isFm
          ? 'several written down: call, channel, distance, bearing'
          : 'several written down from a list of today: call, dial frequency, hours',
      ),
    reason: ({ kind }) =>
      kind.isFm
        ? 'If the first gives no answer, go to the next; a near one may stay silent.'
        : 'The bands change with the hour; an old list sends you where nobody hears you.',
    check: 'The list is with you, and needs no internet.',
  },
  {
    id: 'gatewaySsid',
    setting: 'Gateway’s SSID',
    value: (context) => where(mails(context) && context.kind.isFm, '10, unless the list says another'),
    reason: 'Without the right SSID nobody answers.',
    check: 'The call in the profile is that of the list, to the last digit.',
  },
  {
    id: 'firstSession',
    setting: 'First session',
    value: (context) => where(mails(context) || context.kind.isPeerMail, context.option('firstSession')),
    reason: 'If it fails one knows what it was that failed.',
    check: 'Both say goodbye.',
    school: 'firstSession',
  },
  {
    id: 'selfTest',
    setting: 'Self-test',
    value: (context) => where(mails(context), 'a message to the service’s test address'),
    reason: 'It proves both ways; one cannot mail oneself.',
    check: 'The answer comes with the next session.',
  },
  {
    id: 'identify',
    setting: 'Identification',
    value: ({ kind }) => where(!kind.isAprs && kind.toApp !== 'text', 'by the program, every ten minutes'),
    reason: 'A session can be longer than the time that local rules allow without the call.',
    check: 'The setting is on, or the call is sent by hand.',
    source: '47 CFR 97.119 in the USA; local rules elsewhere',
  },
  {
    id: 'poll',
    setting: 'Mail is fetched',
    value: (context) => where(mails(context), context.option('poll')),
    reason: 'A program that calls by itself transmits while nobody is there.',
    check: 'You know when the next call goes out.',
    school: 'poll',
  },
];
