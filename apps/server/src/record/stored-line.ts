/** PostgreSQL keeps no NUL in a text; a line of octets never has the picture of one. */
const NUL_PICTURE = '\u2400';

export const storableLine = (line: string): string => line.replaceAll('\0', NUL_PICTURE);
export const storedLine = (line: string): string => line.replaceAll(NUL_PICTURE, '\0');
