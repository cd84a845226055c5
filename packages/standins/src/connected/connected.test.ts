import { seededDice } from '@mistpeak/core/network/dice';
import { parseListing } from '@mistpeak/core/mailbox-visit/listing';
import { lettersExplained, recognisePrompt } from '@mistpeak/core/mailbox-visit/prompt';
import { whatIsAsked } from '@mistpeak/core/terminal/prompts';
import { RadioChannel } from '../radio-channel/radio-channel.js';
import { VirtualClock } from '../world/virtual-clock.js';
import { calling } from './caller.js';
import { ConnectedEnd, type Line } from './connected-end.js';
import { HutMailbox } from './hut-mailbox.js';
import { nodeAnswer } from './node.js';

/** Somebody who types to a stand-in and reads on until its next words end like that. */
function visitor(answer: ConstructorParameters<typeof ConnectedEnd>[3], call = 'QH4MPK-7') {
  const clock = new VirtualClock(0);
  const channel = new RadioChannel(clock, seededDice(1), () => -70);
  const other = new ConnectedEnd(channel, clock, 'QH2HUT-1', answer);
  const me = new ConnectedEnd(channel, clock, call, undefined);
  let said = '';
  let line: Line | undefined;
  let isOver = false;
  me.connect(
    'QH2HUT-1',
    [],
    (mine) => {
      line = mine;
      return { line: (text) => void (said += `${text}\r`), ended: () => void (isOver = true) };
    },
    5,
  );
  return {
    other,
    types: (text: string): string => {
      said = '';
      if (text !== '') line?.say(text);
      clock.advance(60_000);
      return said;
    },
    isOver: () => isOver,
    end: () => {
      me.end();
      other.end();
      channel.end();
      expect(clock.leftovers()).toBe(0);
    },
  };
}

describe('the hut’s mailbox', () => {
  it('is one that a visit understands: prompt, letters, listing; it reads, keeps, kills and says good-bye', () => {
    const { types, isOver, end } = visitor(new HutMailbox().answer);
    const hello = types('');
    expect(hello).toMatch('You have mail: 2.');
    expect(recognisePrompt(hello)).toMatchObject({ memoryLeft: 11_864 });
    expect(lettersExplained(types('?'))).toEqual(expect.arrayContaining(['L', 'R', 'S', 'K', 'B']));
    expect(parseListing(types('L'))?.rows.map(({ number, to, from }) => `${number} ${from}>${to}`)).toEqual([
      '43 QH7CTA>QH4MPK',
      '42 QH3PRT>ALL',
      '41 QH8CLA>QH4MPK',
    ]);
    expect(types('R 41')).toMatch('41 terns, 6 gannets on nests.');
    expect(types('K 41')).toMatch('Killed 41.');
    expect(types('R 41')).toMatch('No such message');
    expect(types('S QH8CLA')).toBe('');
    types('lamps');
    types('two');
    expect(types('/EX')).toMatch('Stored as 44.');
    expect(types('L')).toMatch(/44 +N +3 +QH8CLA QH4MPK lamps/);
    expect(types('B')).toMatch('Bye');
    expect(isOver()).toBe(true);
    end();
  });

  it('shows nobody else’s mail', () => {
    const { types, end } = visitor(new HutMailbox().answer, 'QH8CLB-7');
    types('');
    expect(parseListing(types('L'))?.rows.map(({ number }) => number)).toEqual([42]);
    expect(types('K 42')).toMatch('No such message');
    expect(types('S')).toMatch('To which call?');
    end();
  });
});

it('the node asks for a password, and by a challenge', () => {
  const { types, isOver, end } = visitor(nodeAnswer);
  types('');
  types('LOGIN');
  types('mpk');
  expect(types('seabird')).toMatch('Not known here.');
  expect(whatIsAsked(types('OTP'))).toMatchObject({ challenge: 'otp-md5 97 hollin1' });
  types('x');
  expect(types('COLOUR')).toMatch('\u001b[31mred');
  types('BYE');
  expect(isOver()).toBe(true);
  end();
});

it('a caller visits by a prompt at a time, and again later', () => {
  const clock = new VirtualClock(0);
  const channel = new RadioChannel(clock, seededDice(1), () => -70);
  const lines: string[] = [];
  const box = new ConnectedEnd(channel, clock, 'QH4MPK-1', (_, { say, hangUp }) => ({
    connected: () => say('box>'),
    line: (text) => {
      lines.push(text);
      if (text === 'B') return hangUp();
      say(
        text.startsWith('S ')
          ? 'Subject of it:'
          : text.startsWith('tally')
            ? 'Text, then'
            : text === '/EX' || text === 'L'
              ? 'box>'
              : '',
      );
    },
  }));
  const caller = new ConnectedEnd(channel, clock, 'QH8CLA-5', undefined);
  const stop = calling(caller, clock, {
    to: 'QH4MPK-1',
    via: [],
    addressee: 'QH4MPK',
    subject: 'tally',
    lines: ['41'],
  });
  clock.advance(3 * 60_000);
  expect(lines).toEqual(['L', 'S QH4MPK', 'tally 1', '41', '/EX', 'B']);
  expect([caller.isBusy(), box.isBusy()]).toEqual([false, false]);
  clock.advance(4 * 60_000);
  expect(lines).toContain('tally 2');
  stop();
  caller.end();
  box.end();
  channel.end();
});
