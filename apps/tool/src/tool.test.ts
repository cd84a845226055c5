import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const HOME = join(__dirname, '../../..');
const folder = mkdtempSync(join(tmpdir(), 'mistpeak-tool-'));

const COMMAND = `${join(HOME, 'mistpeak')} tool`;
/** What the command hands over to when all is built. */
const DIRECT = `${process.execPath} ${join(HOME, 'apps/tool/dist/main.js')}`;

/** The real tool in a real shell. */
function tool(
  args: string,
  input: string | Buffer = '',
  command = DIRECT,
): { status: number | null; out: Buffer; err: string } {
  const { status, stdout, stderr } = spawnSync('sh', ['-c', `${command} ${args}`], {
    input,
    cwd: folder,
    maxBuffer: 1 << 28,
  });
  return { status, out: stdout, err: stderr.toString() };
}

const jsonLines = (out: Buffer): unknown[] =>
  out
    .toString()
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as unknown);

const LINE = 'N0CALL-7>APZMPK,WIDE1-1,WIDE2-1:>hi';
/** The example frame, read by an independent network analyser. */
const HEX = '82a0b49aa096e09c60868298986eae92888a624062ae92888a64406303f03e6869';

describe('./mistpeak tool', () => {
  it('encode: monitor lines to hex, a bad line to standard error', () => {
    const { status, out, err } = tool('encode', `${LINE}\nnonsense\n`, COMMAND);
    expect([status, out.toString()]).toEqual([1, `${HEX}\n`]);
    expect(err).toContain('line 2: there is no ":"');
  });

  it('encode keeps octets that are not ASCII', () => {
    const { out } = tool('encode', Buffer.from('A>B:\xe9\x00\xff', 'latin1'));
    expect(out.toString().trim().endsWith('e900ff')).toBe(true);
  });

  it('decode: hex and monitor lines, told apart', () => {
    const { status, out } = tool('decode', `${HEX}\n${LINE}\n82a0\n`);
    expect(status).toBe(1);
    const frame = {
      source: 'N0CALL-7',
      destination: 'APZMPK',
      path: [
        { call: 'WIDE1-1', used: false },
        { call: 'WIDE2-1', used: false },
      ],
      control: { kind: 'UI', pf: false },
      command: true,
      pid: 240,
      infoHex: '3e6869',
    };
    const aprs = { type: 'status', status: 'hi' };
    expect(jsonLines(out)).toEqual([
      { line: 1, ok: true, frame, aprs },
      { line: 2, ok: true, frame, aprs },
      { line: 3, ok: false, malformed: 'the address field is cut short', at: 2, rawHex: '82a0' },
    ]);
  });

  // from: the public connection description of APRS-IS: what AX.25 could not carry is read as it stands
  it('decode: lines of the internet service', () => {
    const line = 'HOLLIN-B2>APRS,QH1ANR*,WIDE2-1,qAR,QH3PRT-10:>hi';
    const { status, out } = tool('decode', `${line}\nHOLLIN-B2>A P:>hi\n`);
    expect(status).toBe(1);
    expect(jsonLines(out)).toMatchObject([
      {
        ok: true,
        frame: {
          source: 'HOLLIN-B2',
          path: [
            { call: 'QH1ANR', used: true },
            { call: 'WIDE2-1', used: false },
            { call: 'qAR' },
            { call: 'QH3PRT-10' },
          ],
          command: null,
          infoHex: '3e6869',
        },
        aprs: { type: 'status', status: 'hi' },
      },
      { ok: false },
    ]);
  });

  it('decode: the facts of a report under the names of the contract', () => {
    const line = 'QH4MPK>APZMPK:!4903.50N/07201.75W-146.520MHz T107 +060 R25m !W52!|!!#%|evenings';
    expect(jsonLines(tool('decode', `${line}\n`).out)).toMatchObject([
      {
        aprs: {
          type: 'position',
          messaging: false,
          symbol: { table: '/', code: '-' },
          frequency: { frequencyMHz: 146.52, toneHz: 107.2, offsetKHz: 600, rangeKm: 40.2336 },
          telemetry: { sequence: 0, analog: [186] },
          comment: 'evenings',
        },
      },
    ]);
  });

  it('decode --modulo 128 reads two control octets', () => {
    const iFrame = '82a0b49aa096e09c60868298986f' + '0407' + 'f0' + '41';
    const { out } = tool('decode --modulo 128', iFrame);
    expect(jsonLines(out)).toMatchObject([
      { frame: { control: { kind: 'I', ns: 2, nr: 3, pf: true }, infoHex: '41' } },
    ]);
  });

  // fixture.pcap was written by text2pcap of a general network analyser: link type 202, two frames
  it('decode --pcap reads a capture that another program wrote', () => {
    const { status, out } = tool(`decode --pcap ${join(__dirname, 'testing/fixture.pcap')}`);
    expect(status).toBe(0);
    expect(jsonLines(out)).toMatchObject([
      { line: 1, ok: true, frame: { source: 'N0CALL-7' }, aprs: { type: 'status', status: 'hi' } },
      {
        line: 2,
        ok: true,
        frame: {
          source: 'QH7CTC-9',
          path: [
            { call: 'QH1ANR', used: true },
            { call: 'WIDE2-1', used: false },
          ],
        },
      },
    ]);
  });

  it('kiss wrap and unwrap are each other’s inverse, with literal octets between', () => {
    const wrapped = tool('kiss wrap --port 12', 'c0db\n');
    expect(wrapped.out.toString('hex')).toBe('c0dbdcdbdcdbddc0');
    const stream = Buffer.concat([wrapped.out, Buffer.from('c0011ec0c00041db41c0c0ffc0', 'hex')]);
    const { status, out } = tool('kiss unwrap', stream);
    expect(status).toBe(1);
    expect(jsonLines(out)).toEqual([
      { port: 12, command: 'data', hex: 'c0db' },
      { port: 0, command: 'txdelay', value: 30 },
      { discarded: 'bad escape', octets: 4 },
      { command: 'return' },
    ]);
  });

  it('decode --kiss reads a binary stream', () => {
    const { out } = tool('decode --kiss', Buffer.from(`c000${HEX}c0c00007c0`, 'hex'));
    expect(jsonLines(out)).toMatchObject([
      { line: 1, ok: true, aprs: { status: 'hi' } },
      { line: 2, ok: false },
    ]);
  });

  it('pcap writes what decode --pcap reads', () => {
    expect(tool('pcap out.pcap', `${HEX}\n`).status).toBe(0);
    expect(readFileSync(join(folder, 'out.pcap')).readUInt32LE(20)).toBe(202);
    expect(jsonLines(tool('decode --pcap out.pcap').out)).toMatchObject([
      { ok: true, frame: { source: 'N0CALL-7' } },
    ]);
  });

  it.each([
    ['passcode N0CALL', 0, '13023'],
    ['passcode n0call-9', 0, '13023'],
    ['grid -29.632 -11.405', 0, 'IG40hi'],
    ['grid 41.714775 -72.727260 --length 4', 0, 'FN31'],
    ['grid IG40hj', 0, '-29.604167 -11.375000'],
  ])('%s', (args, status, printed) => {
    const ran = tool(args);
    expect([ran.status, ran.out.toString().trim()]).toEqual([status, printed]);
  });

  it.each([
    ['grid ZZ99', 1],
    ['passcode NOTACALLSIGN', 1],
    ['passcode', 2],
    ['grid', 2],
    ['kiss', 2],
    ['kiss wrap --port 16', 2],
    ['decode --modulo 9', 2],
    ['decode --nonsense', 2],
    ['fly', 2],
    ['', 2],
    ['--help', 0],
    ['decode --help', 0],
  ])('"%s" exits with %i', (args, status) => expect(tool(args).status).toBe(status));

  it('modulate and demodulate: frames to sound and back, at any rate and by every decoder', () => {
    for (const [rate, decoder] of [
      [8000, 'light'],
      [44_100, 'wide'],
      [48_000, 'default'],
    ] as const) {
      expect(tool(`modulate sound.wav --rate ${rate} --level -10`, `${HEX}\n${HEX}\n`).status).toBe(0);
      const { status, out } = tool(`demodulate sound.wav --decoder ${decoder}`);
      expect(status).toBe(0);
      expect(jsonLines(out)).toMatchObject([
        { hex: HEX, monitor: LINE },
        { hex: HEX, monitor: LINE },
      ]);
      const [first] = jsonLines(out) as [{ tSeconds: number; levelDbfs: number; twistDb: number }];
      // arithmetic: 0.2 s of quiet, 0.3 s of TXDELAY, 247.5 ms of frame (its 297 bits at 1200 baud).
      expect(Math.abs(first.tSeconds - 0.7475)).toBeLessThan(0.02);
      expect(Math.abs(first.levelDbfs + 10)).toBeLessThan(0.6);
      expect(Math.abs(first.twistDb)).toBeLessThan(1);
    }
  });

  it('modulate and demodulate: 300 and 9600 baud, pre-emphasis, and a keying tone on the right', () => {
    for (const baud of [300, 9600]) {
      expect(tool(`modulate sound.wav --baud ${baud}`, `${HEX}\n`).status).toBe(0);
      const { out } = tool(`demodulate sound.wav --baud ${baud}`);
      expect(jsonLines(out)).toMatchObject([{ hex: HEX, monitor: LINE }]);
    }
    expect(tool('modulate sound.wav --preemphasis --keying 15000', `${HEX}\n`).status).toBe(0);
    const [left] = jsonLines(tool('demodulate sound.wav --channel left').out) as [{ twistDb: number }];
    // arithmetic: 20 log(2200/1200).
    expect(Math.abs(left.twistDb - 5.26)).toBeLessThan(0.3);
    expect(tool('demodulate sound.wav --channel right').out.toString()).toBe('');
    expect(tool('modulate sound.wav --baud 9600 --preemphasis').status).toBe(2);
    expect(tool('modulate sound.wav --baud 9600 --rate 11025').status).toBe(2);
    expect(tool('modulate sound.wav --keying 22050').status).toBe(2);
  });

  it('demodulate --measures tells how each frame sounded, and the sound at the end', () => {
    expect(tool('modulate sound.wav --level -20 --txdelay 200', `${HEX}\n`).status).toBe(0);
    const [frame, whole] = jsonLines(tool('demodulate sound.wav --measures').out) as [
      { preambleMs: number; markDbfs: number; ebN0Db: number },
      { peakDbfs: number; clippedShare: number },
    ];
    expect(Math.abs(frame.preambleMs - 200)).toBeLessThan(14);
    expect(Math.abs(frame.markDbfs + 20)).toBeLessThan(0.4);
    expect(frame.ebN0Db).toBeGreaterThan(20);
    expect(Math.abs(whole.peakDbfs + 20)).toBeLessThan(0.2);
    expect(whole.clippedShare).toBe(0);
  });

  it('demodulate: what is no sound that can be read is a reason, not a crash', () => {
    for (const [name, octets] of [
      ['empty.wav', Buffer.alloc(0)],
      ['noise.wav', Buffer.alloc(5000, 0x55)],
      // 1 Hz and 1 MHz.
      [
        'slow.wav',
        Buffer.from(
          '524946460000000057415645666d74201000000001000100010000000200000002001000646174610000000000',
          'hex',
        ),
      ],
      [
        'fast.wav',
        Buffer.from(
          '524946460000000057415645666d7420100000000100010040420f0080841e000200100064617461000000000000',
          'hex',
        ),
      ],
    ] as const) {
      writeFileSync(join(folder, name), octets);
      const { status, out, err } = tool(`demodulate ${name}`);
      expect([status, out.toString()]).toEqual([1, '']);
      expect(err).toMatch(/not a sound file|the file ends before|a sample rate of/);
    }
    expect(tool('demodulate sound.wav --decoder best').status).toBe(2);
    expect(tool('modulate').status).toBe(2);
  });

  it('lzhuf and mail: what radio mail sends, both ways, and wrong input by its reason', () => {
    const json =
      '{"headers":[["Mid","A"],["X-Odd","yes"],["Body","9"]],"text":"t\u00e9rns","files":[{"name":"a","base64":"AP8="}]}';
    const octets = tool('mail pack', json).out;
    expect(octets.toString('latin1')).toBe(
      'Mid: A\r\nX-Odd: yes\r\nBody: 5\r\nFile: 2 a\r\n\r\nt\xe9rns\r\n\x00\xff\r\n',
    );
    const packed = tool('lzhuf pack', octets);
    const back = tool('lzhuf unpack', packed.out);
    expect([packed.status, back.status, back.out.equals(octets)]).toEqual([0, 0, true]);
    expect(jsonLines(tool('mail unpack', octets).out)).toEqual([
      {
        headers: [
          ['Mid', 'A'],
          ['X-Odd', 'yes'],
          ['Body', '5'],
          ['File', '2 a'],
        ],
        text: 't\xe9rns',
        files: [{ name: 'a', base64: 'AP8=' }],
      },
    ]);
    expect(tool('lzhuf unpack', 'junk, more junk')).toMatchObject({
      status: 1,
      err: expect.stringContaining('checksum'),
    });
    expect(tool('mail pack', '{"headers":7}')).toMatchObject({
      status: 1,
      err: expect.stringContaining('headers'),
    });
    expect(tool('mail pack', '{')).toMatchObject({ status: 1, err: expect.stringContaining('no JSON') });
    expect(tool('mail', '')).toMatchObject({ status: 2 });
  });
});
