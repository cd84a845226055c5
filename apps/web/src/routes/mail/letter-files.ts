import type { LetterFile } from '@mistpeak/contract/mail';
import { base64Of } from '../../pieces/base64';

const PICTURE = /\.(?:jpe?g|png|webp|gif|bmp)$/i;

export const isPicture = ({ name }: Pick<LetterFile, 'name'>): boolean => PICTURE.test(name);

export const fileOf = async (file: Blob, name: string): Promise<LetterFile> => ({
  name,
  base64: await base64Of(file),
});

export function blobOf({ base64 }: LetterFile): Blob {
  return new Blob([Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0))]);
}

export const octetsOf = ({ base64 }: LetterFile): number =>
  Math.floor((base64.replace(/=+$/, '').length * 3) / 4);
