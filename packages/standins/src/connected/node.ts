import type { Conversation, Line } from './connected-end.js';

const PROMPT = 'NOD4> ';

/** The node on Anrick Head: some words, a login that asks for a password, and one with a challenge. */
export function nodeAnswer(caller: string, { say, ask, hangUp }: Line): Conversation {
  let awaits: 'command' | 'login' | 'password' = 'command';
  const prompt = (): void => ask(PROMPT);
  const command = (text: string): void => {
    const [word = ''] = text.trim().toUpperCase().split(/\s+/);
    if (word === 'BYE' || word === 'B') {
      say('73');
      return hangUp();
    }
    if (word === 'LOGIN') {
      awaits = 'login';
      return ask('login: ');
    }
    if (word === 'OTP') {
      awaits = 'password';
      return ask('otp-md5 97 hollin1\rPassword: ');
    }
    if (word === 'NODES') say('QH2HUT-1  Port Velan', 'QH2NOD-4  here');
    else if (word === 'COLOUR') say('\u001b[1;32mgreen\u001b[0m and \u001b[31mred\u001b[0m');
    else if (word === 'INFO') say('QH2NOD-4, Anrick Head 667 m. It connects nobody onward.');
    else if (word !== '') say(`Unknown: ${word}. NODES, INFO, COLOUR, LOGIN, OTP, BYE`);
    prompt();
  };
  return {
    connected: () => {
      say(`QH2NOD-4 node, hello ${caller}`);
      prompt();
    },
    line: (text) => {
      if (awaits === 'login') {
        awaits = 'password';
        return ask('Password: ');
      }
      if (awaits === 'password') {
        awaits = 'command';
        say('Not known here.');
        return prompt();
      }
      command(text);
    },
  };
}
