import type { LetterFile } from '@mistpeak/contract/mail';

const PICTURE = /\.(?:jpe?g|png|webp|gif|bmp)$/i;

export const isPicture = ({ name }: Pick<LetterFile, 'name'>): boolean => PICTURE.test(name);

export async function fileOf(file: Blob, name: string): Promise<LetterFile> {
  const octets = new Uint8Array(await file.arrayBuffer());
  let text = '';
  for (let at = 0; at < octets.length; at += 8192)
    text += String.fromCharCode(...octets.subarray(at, at + 8192));
  return { name, base64: btoa(text) };
}

export function blobOf({ base64 }: LetterFile): Blob {
  return new Blob([Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0))]);
}

export const octetsOf = ({ base64 }: LetterFile): number =>
  Math.floor((base64.replace(/=+$/, '').length * 3) / 4);
