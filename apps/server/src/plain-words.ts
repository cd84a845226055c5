/** Something that the operator can mend: told in these words, without a stack. */
export class PlainWords extends Error {}
