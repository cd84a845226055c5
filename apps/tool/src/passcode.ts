import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parseCallSign } from '@mistpeak/core/callsign/callsign';
import { passcode } from '@mistpeak/core/callsign/passcode';
import { readArguments, WrongUsage, type Verb } from './verb.js';

export const passcodeVerb: Verb = {
  name: 'passcode',
  usage: 'passcode CALL',
  about: 'the number that the APRS internet service asks for: a public hash of the call, no secret',
  run(args) {
    const { positionals } = readArguments(args, {});
    const [text] = positionals;
    if (text === undefined || positionals.length > 1) throw new WrongUsage('passcode needs one call sign');
    const call = parseCallSign(text);
    if (isMalformed(call)) {
      console.error(`${text}: ${call.malformed}`);
      return 1;
    }
    console.log(passcode(call.call));
    return 0;
  },
};
