/** What stood when the plug was to be pulled. bootId: which start of the computer that was. */
export interface CutAsked {
  readonly askedAtMs: number;
  readonly bootId: string;
  readonly links: readonly string[];
  readonly addresses: readonly string[];
}

/** How it came back. secondsFromBoot: until Mistpeak served; absent: nobody can tell. */
export interface PowerCut {
  readonly askedAtMs: number;
  readonly cameUpAtMs: number;
  /** The computer itself was off: else only Mistpeak was ended. */
  readonly wasCutOff: boolean;
  readonly secondsFromBoot?: number;
  readonly links: readonly { readonly name: string; readonly isOpen: boolean }[];
  readonly hasSameAddress: boolean;
  readonly isLockClosed: boolean;
}

/** What there is now, after a start. */
export interface CameUp {
  readonly nowMs: number;
  readonly bootId: string;
  readonly uptimeS?: number;
  readonly openLinks: readonly string[];
  readonly addresses: readonly string[];
  readonly isLockClosed: boolean;
}

/** Some address of before is one of now; one that had none needs none. */
export function judgeCut(asked: CutAsked, now: CameUp): PowerCut {
  return {
    askedAtMs: asked.askedAtMs,
    cameUpAtMs: now.nowMs,
    wasCutOff: asked.bootId !== now.bootId,
    ...(now.uptimeS === undefined ? {} : { secondsFromBoot: now.uptimeS }),
    links: asked.links.map((name) => ({ name, isOpen: now.openLinks.includes(name) })),
    hasSameAddress:
      asked.addresses.length === 0 || asked.addresses.some((one) => now.addresses.includes(one)),
    isLockClosed: now.isLockClosed,
  };
}

/** Everything that was there is there again, and nothing transmits by itself. */
export const isCutProved = ({ wasCutOff, links, hasSameAddress, isLockClosed }: PowerCut): boolean =>
  wasCutOff && hasSameAddress && isLockClosed && links.every(({ isOpen }) => isOpen);

/** `came up by itself in 48 s with USB packet modem, the same address, locked`. */
export function cutInWords(cut: PowerCut): string {
  const { wasCutOff, secondsFromBoot, links, hasSameAddress, isLockClosed } = cut;
  if (!wasCutOff) return 'the computer was not cut off: only Mistpeak was ended';
  const time = secondsFromBoot === undefined ? '' : ` in ${Math.round(secondsFromBoot)} s`;
  const open = links.filter(({ isOpen }) => isOpen).map(({ name }) => name);
  const shut = links.filter(({ isOpen }) => !isOpen).map(({ name }) => name);
  return [
    `came up by itself${time}${open.length > 0 ? ` with ${open.join(', ')}` : ''}`,
    shut.length > 0 && `without ${shut.join(', ')}`,
    hasSameAddress ? 'the same address' : 'another address: phones do not find it',
    isLockClosed ? 'locked' : 'armed: it must not be',
  ]
    .filter(Boolean)
    .join(', ');
}
