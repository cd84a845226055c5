import { decodeVerb } from './decode.js';
import { demodulateVerb } from './demodulate.js';
import { encodeVerb } from './encode.js';
import { gridVerb } from './grid.js';
import { kissVerb } from './kiss.js';
import { lzhufVerb } from './lzhuf.js';
import { mailVerb } from './mail.js';
import { modulateVerb } from './modulate.js';
import { passcodeVerb } from './passcode.js';
import { pcapVerb } from './pcap.js';
import { WrongUsage, type Verb } from './verb.js';

const VERBS: readonly Verb[] = [
  encodeVerb,
  decodeVerb,
  kissVerb,
  pcapVerb,
  passcodeVerb,
  gridVerb,
  modulateVerb,
  demodulateVerb,
  lzhufVerb,
  mailVerb,
];

const HELP = `./mistpeak tool VERB: frames and codes in a shell, by the same core as the application.
Frames in hex are AX.25 from the first address octet to the last info octet, no flags, no FCS.
Exit: 0, or 1 if any line failed, 2 for wrong usage.

${VERBS.map(({ usage, about }) => `  ${usage}\n      ${about}`).join('\n')}`;

async function main([name, ...rest]: string[]): Promise<number> {
  if (name === undefined || name === '--help' || name === '-h') {
    console.log(HELP);
    return name === undefined ? 2 : 0;
  }
  const verb = VERBS.find((one) => one.name === name);
  if (!verb) throw new WrongUsage(`there is no verb "${name}"`);
  if (rest.includes('--help')) {
    console.log(`${verb.usage}\n    ${verb.about}`);
    return 0;
  }
  return verb.run(rest);
}

// A reader that has seen enough, as head does, closes the pipe: that is no failure.
process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1));

main(process.argv.slice(2)).then(
  (code) => (process.exitCode = code),
  (error: Error) => {
    console.error(`mistpeak tool: ${error.message}`);
    if (error instanceof WrongUsage) console.error('Type ./mistpeak tool --help');
    process.exitCode = error instanceof WrongUsage ? 2 : 1;
  },
);
