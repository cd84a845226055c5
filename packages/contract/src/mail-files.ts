/** Of .eml and mbox files that are taken in, whichever they are. */
export const LETTERS_TYPE = 'application/mbox';
