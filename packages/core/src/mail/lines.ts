import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';

/**
 * Lines of the conversation before and between the proposals (B2F; FBB forwarding). They end with CR.
 *
 *   [NAME-VERSION-B2FHM$]   who speaks, and what he can     ;PQ: 23753528   challenge   ;PR: 72768415   its answer
 *   ;FW: QH4MPK QH4MPK-1    for whom mail is asked          ;PM: to mid size from subject   what waits
 */
export interface Sid {
  readonly name: string;
  readonly version: string;
  /** Letters of what it can: B2 compressed messages with headers, F forwarding, M message ids, H hierarchy, $ ends them. */
  readonly can: string;
}

export const formatSid = ({ name, version, can }: Sid): string => `[${name}-${version}-${can}]`;

export function parseSid(line: string): Sid | Malformed {
  const parts = /^\s*\[([^\]]{1,100})\]\s*$/.exec(line)?.[1]?.split('-');
  const can = parts?.at(-1);
  if (!parts || can === undefined || parts.length < 2 || !can.endsWith('$'))
    return malformed('no SID: it reads [name-version-what it can$]');
  return { name: parts[0] as string, version: parts.slice(1, -1).join('-'), can };
}

/** Both must be able to send compressed messages with headers. */
export const speaksB2 = ({ can }: Sid): boolean => /B2/.test(can) && can.includes('F');

export const isPrompt = (line: string): boolean => /^[^;[].*>\s*$|^>\s*$/.test(line);

/** Own addresses, the first without an answer, further ones with theirs where a challenge was told (from memory). */
export const formatForwarding = (
  addresses: readonly { readonly address: string; readonly answer?: string }[],
): string =>
  `;FW: ${addresses.map(({ address, answer }) => (answer === undefined ? address : `${address}|${answer}`)).join(' ')}`;

export function parseForwarding(line: string): readonly { address: string; answer?: string }[] | undefined {
  const [, rest] = /^;FW:\s*(.+)$/i.exec(line) ?? [];
  return rest
    ?.trim()
    .split(/\s+/)
    .slice(0, 50)
    .map((word) => {
      const [address = '', answer] = word.split('|');
      return { address: address.toUpperCase(), ...(answer === undefined ? {} : { answer }) };
    });
}

/** What waits before it is proposed (from memory). */
export interface Announced {
  readonly to: string;
  readonly mid: string;
  readonly octets: number;
  readonly from: string;
  readonly subject: string;
}

export const formatAnnounced = ({ to, mid, octets, from, subject }: Announced): string =>
  `;PM: ${to} ${mid} ${octets} ${from} ${subject}`;

export function parseAnnounced(line: string): Announced | undefined {
  const [, to, mid, octets, from, subject] =
    /^;PM:\s*(\S+)\s+(\S{1,12})\s+(\d{1,9})\s+(\S+)\s*(.*)$/i.exec(line) ?? [];
  if (subject === undefined) return undefined;
  return { to: to as string, mid: mid as string, octets: Number(octets), from: from as string, subject };
}

export const parseChallenge = (line: string): string | undefined => /^;PQ:\s*(\S{1,40})\s*$/i.exec(line)?.[1];
export const parseAnswer = (line: string): string | undefined => /^;PR:\s*(\S{1,40})\s*$/i.exec(line)?.[1];

/** Who speaks to whom, from where: that identifies the station. */
export const formatIdentification = (target: string, own: string, locator: string): string =>
  `; ${target} DE ${own}${locator === '' ? '' : ` (${locator})`}`;

export const sidOf = (line: string): Sid | undefined => {
  const sid = parseSid(line);
  return isMalformed(sid) ? undefined : sid;
};
