import type { Cause } from './causes.js';
import { COLLIDED, WEAK, CLOSES } from './outlooks.js';

/** A session begins and then dies. */
export function causesOfDyingSessions(): readonly Cause[] {
  return [
    {
      weight: 5,
      faults: ['squelch'],
      cause: 'The squelch is too tight: it loses the start of every packet.',
      test: 'Open it, or lower it by a step, and call again.',
    },
    {
      weight: 3,
      outlook: COLLIDED,
      cause: 'Somebody whom you do not hear sends at the same time: a hidden station.',
      test: 'Call when the channel is quiet, with shorter frames (PACLEN 64).',
    },
    {
      weight: 3,
      outlook: WEAK,
      cause: 'The signal is weak: short frames pass and long ones do not.',
      test: 'Look at what had to be sent again in the link quality, and set what it advises.',
    },
    {
      weight: 2,
      outlook: {},
      cause: 'The timers are too short for the way, as with digipeaters between.',
      test: 'Compute them again for this way, or set a longer T1.',
    },
  ];
}

/** The gateway answers, and there is no login. */
export function causesOfRefusedLogins(): readonly Cause[] {
  return [
    {
      weight: 4,
      faults: ['gateway-service'],
      cause: 'The gateway is well, and its mail service is out of reach from there.',
      test: 'Read its words in the session’s lines, and take the next gateway.',
    },
    {
      weight: 3,
      outlook: CLOSES,
      cause: 'The password is not that of the account; small and capital letters count.',
      test: 'Give it anew under Mail, Account; try it by TCP, without the radio, where you can.',
    },
    {
      weight: 2,
      outlook: CLOSES,
      cause: 'The account is new, or was never made: the service knows no password for it.',
      test: 'Connect with nothing queued and without a password: a first one comes as a letter.',
    },
    {
      weight: 1,
      faults: ['mistyped'],
      cause: 'What answers on that SSID is no mail gateway.',
      test: 'Compare call and SSID: 10 is usual. Visit it in Terminal.',
    },
  ];
}

/** The login is well, and letters do not go or come. */
export function causesOfLettersThatStay(): readonly Cause[] {
  return [
    {
      weight: 4,
      outlook: WEAK,
      cause: 'The link dies under long frames: short ones pass, blocks of a letter do not.',
      test: 'Look at what had to be sent again in the session; set a shorter PACLEN, and call once more: it goes on where it broke.',
    },
    {
      weight: 2,
      outlook: {},
      cause: 'The letter is held back: only over the internet, not before its time, or for another station.',
      test: 'Look at it in the satchel.',
    },
    {
      weight: 1,
      outlook: {},
      cause: 'The other end puts it off or refuses it: too large, or an addressee that it does not know.',
      test: 'Read the note at the letter; make it smaller, compare the address.',
    },
  ];
}
