import type { Conversation, Line } from './connected-end.js';

interface Message {
  readonly number: number;
  readonly from: string;
  readonly to: string;
  readonly subject: string;
  readonly lines: readonly string[];
  isRead: boolean;
}

const bare = (call: string): string => call.split('-')[0] ?? call;
const PROMPT = 'Hut (B,K n,L,R n,S call,?) >';
const FREE = 12_000;

/** The personal mailbox of the hut at Port Velan, in words of its own: what callers meet who call QH2HUT-1. */
export class HutMailbox {
  private last = 40;
  private readonly messages: Message[] = [];

  constructor() {
    this.add('QH8CLA', 'QH4MPK', 'terns, hide 3', [
      '41 terns, 6 gannets on nests.',
      'Rain from noon.',
      '73 team A',
    ]);
    this.add('QH3PRT', 'ALL', 'soup until 19', ['The field kitchen at Sallomere has soup until 19:00.']);
    this.add('QH7CTA', 'QH4MPK', 'lamps', ['Two lamps are left, where to?']);
  }

  readonly answer = (caller: string, { say, ask, hangUp }: Line): Conversation => {
    const me = bare(caller);
    let writing: { to: string; subject?: string; lines: string[] } | undefined;
    const prompt = (): void => ask(`${PROMPT}\r`);
    const command = (text: string): void => {
      const [, letter = '', rest = ''] = /^\s*([A-Za-z?]*)\s*(.*?)\s*$/.exec(text) ?? [];
      switch (letter.toUpperCase()) {
        case 'L':
          this.list(me, say);
          break;
        case 'R':
          this.read(Number(rest), me, say);
          break;
        case 'K':
          this.kill(Number(rest), me, say);
          break;
        case 'S':
          if (!/^[A-Z0-9]{3,6}(-\d+)?$/i.test(rest)) {
            say('To which call?');
            break;
          }
          writing = { to: bare(rest.toUpperCase()), lines: [] };
          return ask('Subject: ');
        case 'B':
          say('Bye, come again.');
          return hangUp();
        case '?':
          say('L)ist  R)ead n  S)end call  K)ill n  B)ye', 'Text ends with /EX.');
          break;
        default:
          if (text.trim() !== '') say('What? (? helps)');
      }
      prompt();
    };
    const write = (text: string): void => {
      if (!writing) return;
      if (writing.subject === undefined) {
        writing.subject = text.trim().slice(0, 30);
        return ask('Text, /EX ends it:\r');
      }
      if (!/^\s*\/EX\s*$/i.test(text) && !text.includes('\u001a')) return void writing.lines.push(text);
      const { number } = this.add(me, writing.to, writing.subject, writing.lines);
      writing = undefined;
      say(`Stored as ${number}.`);
      prompt();
    };
    return {
      connected: () => {
        const waiting = this.messages.filter(({ to, isRead }) => to === me && !isRead).length;
        say(`QH2HUT-1, the hut at Port Velan. Hello ${caller}.`, `${this.free()} bytes free.`);
        if (waiting > 0) say(`You have mail: ${waiting}.`);
        prompt();
      },
      line: (text) => (writing ? write(text) : command(text)),
    };
  };

  private add(from: string, to: string, subject: string, lines: readonly string[]): Message {
    const message = { number: ++this.last, from, to, subject, lines, isRead: false };
    this.messages.push(message);
    return message;
  }

  private free(): number {
    return FREE - this.messages.reduce((sum, { lines }) => sum + lines.join('\r').length, 0);
  }

  private readonly visible = (me: string): Message[] =>
    this.messages.filter(({ to, from }) => to === me || from === me || to === 'ALL');

  private list(me: string, say: Line['say']): void {
    say(
      'Msg# Stat Size To     From   Subject',
      ...this.visible(me)
        .reverse()
        .map(({ number, isRead, lines, to, from, subject }) =>
          [
            String(number).padEnd(4),
            (isRead ? 'Y' : 'N').padEnd(4),
            String(lines.join('\r').length).padEnd(4),
            to.padEnd(6),
            from.padEnd(6),
            subject,
          ].join(' '),
        ),
    );
  }

  private read(number: number, me: string, say: Line['say']): void {
    const message = this.visible(me).find((one) => one.number === number);
    if (!message) return say(`No such message: ${number}`);
    if (message.to === me) message.isRead = true;
    say(
      `Msg ${number}  From ${message.from}  To ${message.to}`,
      `Subject: ${message.subject}`,
      '',
      ...message.lines,
      '(end)',
    );
  }

  private kill(number: number, me: string, say: Line['say']): void {
    const at = this.messages.findIndex((one) => one.number === number && (one.to === me || one.from === me));
    if (at < 0) return say(`No such message: ${number}`);
    this.messages.splice(at, 1);
    say(`Killed ${number}.`);
  }
}
