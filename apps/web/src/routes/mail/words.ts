import type { MailAttempt, MailRunView } from '@mistpeak/contract/mail-session';
import type { MailProfile } from '@mistpeak/contract/mail-settings';
import type { Pace } from '@mistpeak/core/mail/minutes';

/** `12 s`, `3 min`, `1 h 20 min`: as people count what they wait for. */
export function waitWords(ms: number): string {
  const seconds = Math.round(ms / 1000);
  if (seconds < 90) return `${Math.max(1, seconds)} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  const rest = minutes % 60;
  return `${Math.floor(minutes / 60)} h${rest === 0 ? '' : ` ${rest} min`}`;
}

export const octetWords = (octets: number): string =>
  octets < 10_000
    ? `${octets.toLocaleString('en')} octets`
    : `${(octets / 1000).toFixed(octets < 100_000 ? 1 : 0)} kB`;

export const paceWords = ({ octetsPerSecond, from, sessions }: Pace): string =>
  `${octetsPerSecond < 100 ? octetsPerSecond.toFixed(0) : Math.round(octetsPerSecond).toLocaleString('en')} octets/s, ${
    from === 'own sessions'
      ? `by ${sessions === 1 ? 'your last session' : `your last ${sessions} sessions`} on this way`
      : 'reckoned for this channel: no session has told yet'
  }`;

export const WAY_WORDS: Readonly<Record<MailProfile['way'], string>> = {
  packet: 'by packet, through a gateway',
  tcp: 'by TCP, to a service',
  peer: 'by packet, station to station',
  modem: 'through another program’s sound modem',
};

export const whenWords = (ms: number): string => new Date(ms).toISOString().slice(0, 16).replace('T', ' ');

/** What a session is doing now, for people. */
export function phaseWords(run: MailRunView): string {
  const { phase, exchange, gateway, tuning, msLeft } = run;
  switch (phase) {
    case 'tuning':
      return tuning?.by === 'radio'
        ? `The radio is being set to ${tuning.frequencyMHz.toFixed(3)} MHz.`
        : `Set the radio to ${tuning?.frequencyMHz.toFixed(3)} MHz.`;
    case 'waiting for quiet':
      return `Waiting until the channel is free, to call ${gateway}.`;
    case 'calling':
      return `${gateway} is called.`;
    case 'closing':
      return 'Taking leave.';
    case 'over':
      return run.outcome?.happened ?? 'It is over.';
    case 'talking':
      return `${TALK_WORDS[exchange]}${msLeft !== undefined && msLeft > 1000 ? ` About ${waitWords(msLeft)} left.` : ''}`;
  }
}

const TALK_WORDS: Readonly<Record<MailRunView['exchange'], string>> = {
  'not connected': 'Connected.',
  greeting: 'Connected; the other end says who it is.',
  'our turn': 'Logged in.',
  'awaiting answers': 'What you have posted is offered.',
  'their turn': 'It is the other end’s turn.',
  asking: 'A large message is offered: is it wanted?',
  receiving: 'Mail is coming in.',
  keeping: 'What came is being stored.',
  over: 'Done.',
};

export const resultWords = ({ result, words }: Pick<MailAttempt, 'result' | 'words'>): string =>
  result === 'done' ? 'well' : words === '' ? result : words;
