/** What there is to know and to set of a link: each part fits a screen and has its own address. */
export const SECTIONS = {
  link: 'Link',
  channel: 'Channel access',
  frames: 'Frame length and window',
  sharing: 'Other programs',
} as const;
export type Section = keyof typeof SECTIONS;

export const isSection = (text: string | undefined): text is Section =>
  text !== undefined && Object.hasOwn(SECTIONS, text);
