/** A made-up picture as a 24-bit BMP: paths over hills, with noise, so that it hardly packs. */
export function mapPicture(width: number, height: number): Buffer {
  const row = Math.ceil((width * 3) / 4) * 4;
  const file = Buffer.alloc(54 + row * height);
  file.write('BM');
  file.writeUInt32LE(file.length, 2);
  file.writeUInt32LE(54, 10);
  file.writeUInt32LE(40, 14);
  file.writeInt32LE(width, 18);
  file.writeInt32LE(height, 22);
  file.writeUInt16LE(1, 26);
  file.writeUInt16LE(24, 28);
  let noise = 1;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      noise = (Math.imul(noise, 1_103_515_245) + 12_345) >>> 0;
      const hill = Math.round(90 + 60 * Math.sin(x / 70) * Math.cos(y / 50));
      const isPath = Math.abs(y - height / 2 - 60 * Math.sin(x / 90)) < 3;
      const shade = (isPath ? 240 : hill) + ((noise >>> 24) & 15);
      file.fill(Math.min(255, shade), 54 + y * row + x * 3, 57 + y * row + x * 3);
    }
  return file;
}
