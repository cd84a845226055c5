import fc from 'fast-check';
import { concatOctets, fromHex, fromLatin1, toHex } from '../bits/octets.js';
import { encodeTextFile, findTextFiles, safeFileName } from './text-file.js';
import {
  ANSWER_WITHIN_MS,
  beginsYapp,
  MOST_OCTETS,
  receiveByYapp,
  sendByYapp,
  step,
  type YappEffect,
  type YappState,
} from './yapp.js';

describe('a file as text', () => {
  // from: RFC 4648, section 10; IEEE Std 1003.1, "uuencode", -m
  it.each(['f:Zg==', 'fo:Zm8=', 'foo:Zm9v', 'foob:Zm9vYg==', 'fooba:Zm9vYmE=', 'foobar:Zm9vYmFy'])(
    '%s',
    (both) => {
      const [plain, text] = both.split(':') as [string, string];
      expect(encodeTextFile({ name: 'a', octets: fromLatin1(plain) })).toEqual([
        'begin-base64 644 a',
        text,
        '====',
      ]);
    },
  );

  it('comes back from among other lines, octet by octet', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (octets) => {
        const lines = [
          'hut>',
          ...encodeTextFile({ name: 'tally.csv', octets }),
          'hut>',
          'begin-base64 644 half',
          'Zg==',
        ];
        expect(findTextFiles(lines)).toMatchObject(
          [
            { name: 'tally.csv', octets },
            { name: 'half', malformed: /no end/ as never },
          ].map((one) => ('malformed' in one ? { name: one.name } : one)),
        );
      }),
    );
  });

  it.each([
    [['begin-base64 644 a', 'Zg=', '===='], 'it is garbled'],
    [['begin-base64 644 a', 'Z*==', '===='], 'it is garbled'],
    [['begin-base64 644 a', 'Zg=='], 'it has no end: ==== is missing'],
  ])('%j: %s', (lines, malformed) => expect(findTextFiles(lines)).toMatchObject([{ name: 'a', malformed }]));

  it.each([
    ['../../etc/passwd', 'passwd'],
    ['C:\\x\\tally.csv', 'tally.csv'],
    ['.hidden', 'hidden'],
    ['a\u0000b"c', 'a_b_c'],
    ['...', 'file'],
    ['x'.repeat(99), 'x'.repeat(60)],
  ])('a file from outside named %j is %j', (given, name) => expect(safeFileName(given)).toBe(name));
});

/** Two ends; what passes between them is cut as given. */
function transfer(octets: Uint8Array, cut: number): { received?: Uint8Array; ends: string[] } {
  const name = 'tally.csv';
  const states: [YappState, YappState] = [{ phase: 'ended' }, { phase: 'ended' }];
  const out: { received?: Uint8Array; ends: string[] } = { ends: [] };
  const queue: [0 | 1, Uint8Array][] = [];
  const perform = (end: 0 | 1, effects: readonly YappEffect[]): void => {
    for (const effect of effects) {
      if (effect.kind === 'send')
        for (let at = 0; at < effect.octets.length; at += cut)
          queue.push([(1 - end) as 0 | 1, effect.octets.slice(at, at + cut)]);
      if (effect.kind === 'received') out.received = effect.file.octets;
      if (effect.kind === 'ended') out.ends.push(`${end} ${effect.ok}`);
    }
  };
  const begin = (end: 0 | 1, [state, effects]: readonly [YappState, readonly YappEffect[]]): void => {
    states[end] = state;
    perform(end, effects);
  };
  begin(1, receiveByYapp());
  begin(0, sendByYapp({ name, octets }));
  for (let next = queue.shift(); next; next = queue.shift()) {
    const [end, part] = next;
    begin(end, step(states[end], { kind: 'heard', octets: part }));
  }
  return out;
}

describe('YAPP', () => {
  it('brings any octets across, however they are cut', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 1200 }), fc.integer({ min: 1, max: 300 }), (octets, cut) => {
        expect(transfer(octets, cut)).toEqual({ received: octets, ends: ['1 true', '0 true'] });
      }),
    );
  });

  const hears = (state: YappState, hex: string): [YappState, string[]] => {
    const [next, effects] = step(state, { kind: 'heard', octets: fromHex(hex) as Uint8Array });
    return [
      next,
      effects.flatMap((effect) =>
        effect.kind === 'send' ? [toHex(effect.octets)] : effect.kind === 'ended' ? [effect.words] : [],
      ),
    ];
  };

  // from: the published description of 1986 (from memory), octet by octet
  it('is these octets', () => {
    const [asking, effects] = sendByYapp({ name: 'a', octets: fromLatin1('hi') });
    expect(effects).toEqual([
      { kind: 'send', octets: Uint8Array.of(5, 1) },
      { kind: 'start', timer: 'answer', ms: ANSWER_WITHIN_MS },
    ]);
    const [named, header] = hears(asking, '0601');
    expect(header).toEqual(['010461003200']);
    const [sent, data] = hears(named, '0602');
    expect(data).toEqual(['02026869', '0301']);
    const [ending, last] = hears(sent, '0603');
    expect(last).toEqual(['0401']);
    expect(hears(ending, '0604')[1]).toEqual(['2 octets sent']);
    expect(hears(asking, '0602')[1]).toEqual(['02026869', '0301']);
  });

  it('a block of 256 has length 0', () => {
    let [state] = receiveByYapp();
    for (const hex of ['0501', '010661003235360000'.slice(0, 16), `0200${'ab'.repeat(256)}`])
      [state] = hears(state, hex);
    const [, effects] = step(state, { kind: 'heard', octets: Uint8Array.of(3, 1) });
    expect(effects[0]).toMatchObject({ kind: 'received', file: { octets: new Uint8Array(256).fill(0xab) } });
  });

  it.each([
    ['0603', []],
    ['180462757379', ['0605', 'the other end gave up: busy']],
    ['15026e6f', ['the other end refused: no']],
    ['1800', ['0605', 'the other end gave up: no reason given']],
    ['41420603', []],
  ])('a sender that hears %s: %j', (hex, told) =>
    expect(hears(sendByYapp({ name: 'a', octets: fromLatin1('x') })[0], hex)[1]).toEqual(told),
  );

  it('gives up when nobody goes on, and when it is asked to', () => {
    for (const event of [{ kind: 'timer', timer: 'answer' } as const, { kind: 'cancel' } as const]) {
      const [state, effects] = step(receiveByYapp()[0], event);
      expect(state.phase).toBe('ended');
      expect(effects.map(({ kind }) => kind)).toEqual(['send', 'stop', 'ended']);
      expect(step(state, event)[1]).toEqual([]);
    }
  });

  it('takes no file that is shorter or longer than it said', () => {
    let [state] = receiveByYapp();
    for (const hex of ['0501', '010461003300', '02026869']) [state] = hears(state, hex);
    expect(hears(state, '0301')[1].at(-1)).toBe('2 octets came of 3');
    let [huge] = receiveByYapp();
    [huge] = hears(huge, '0501');
    const size = String(MOST_OCTETS + 1);
    const info = fromLatin1(`a\0${size}\0`);
    const [, effects] = step(huge, {
      kind: 'heard',
      octets: concatOctets(Uint8Array.of(1, info.length), info),
    });
    expect(effects.at(-1)).toMatchObject({ ok: false });
  });

  it('any octets leave it in some state', () => {
    fc.assert(
      fc.property(fc.array(fc.uint8Array({ maxLength: 20 })), (parts) => {
        let [state] = receiveByYapp();
        for (const octets of parts) [state] = step(state, { kind: 'heard', octets });
        expect(['receiving', 'ended']).toContain(state.phase);
      }),
    );
  });

  it('its beginning is noticed in what comes', () => {
    expect([
      beginsYapp(fromLatin1('go \x05\x01')),
      beginsYapp(fromLatin1('go \x05')),
      beginsYapp(new Uint8Array()),
    ]).toEqual([true, false, false]);
  });
});
