import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fromLatin1, toLatin1 } from '@mistpeak/core/bits/octets';
import { compress } from '@mistpeak/core/lzhuf/lzhuf';

/** An archive of one member by method -lh1- (LHA header, level 0), which general archive tools read: their window is 4096. */
function archive(plain: Uint8Array): Buffer {
  const stream = Buffer.from(compress(plain));
  const name = Buffer.from('mail.txt');
  const head = Buffer.alloc(22 + name.length + 2);
  head.write('-lh1-', 2, 'latin1');
  head.writeUInt32LE(stream.length, 7);
  head.writeUInt32LE(plain.length, 11);
  head.writeUInt32LE(0x21_00_00_00, 15);
  head[19] = 0x20;
  head[21] = name.length;
  name.copy(head, 22);
  let crc = 0;
  // CRC-16/ARC, as the format has it.
  for (const octet of plain) {
    crc ^= octet;
    for (let i = 0; i < 8; i++) crc = (crc >> 1) ^ (crc & 1 ? 0xa001 : 0);
  }
  head.writeUInt16LE(crc, 22 + name.length);
  head[0] = head.length - 2;
  head[1] = head.subarray(2).reduce((sum, octet) => sum + octet, 0) & 0xff;
  return Buffer.concat([head, stream, Buffer.from([0])]);
}

it('a general archive tool reads our streams', () => {
  const folder = mkdtempSync(join(tmpdir(), 'lzhuf-'));
  const plain = fromLatin1(
    'Evening tally. 41 terns, 6 gannets on nests.\r\n'.repeat(60) +
      toLatin1(new Uint8Array(5000).map((_, i) => (i * i) >> 3)),
  );
  writeFileSync(join(folder, 'a.lzh'), archive(plain));
  expect(spawnSync('lhasa', ['xq', 'a.lzh'], { cwd: folder, encoding: 'utf8' }).status).toBe(0);
  expect(new Uint8Array(readFileSync(join(folder, 'mail.txt')))).toEqual(plain);
  rmSync(folder, { recursive: true });
});
