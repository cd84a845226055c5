import { callWithoutSsid, hasAmateurForm, isPlaceholderCall, parseCallSign } from '../callsign/callsign.js';
import { isMalformed } from '../bits/malformed.js';

/** Answers a message on the next connection (common practice). */
export const TEST_ADDRESS = 'TEST';

export type MailAddress =
  | {
      readonly ok: true;
      /** As it travels: `QH4MPK`, `SMTP:user@host`. */
      readonly address: string;
      readonly kind: 'station' | 'internet' | 'name';
      /** Looks mistyped, in words. */
      readonly doubt?: string;
    }
  | { readonly ok: false; readonly trouble: string };

export interface AddressRules {
  /** Own addresses: nobody can mail himself. */
  readonly own: readonly string[];
  /** The service's own domain: what stands before its @ is a call. */
  readonly domain: string;
}

const INTERNET =
  /^(?:SMTP:)?([^\s@;,<>"]+@[A-Z0-9](?:[A-Z0-9-]*[A-Z0-9])?(?:\.[A-Z0-9](?:[A-Z0-9-]*[A-Z0-9])?)+)$/i;
const NAME = /^[A-Z0-9][A-Z0-9-]{0,11}$/;

/** An address as typed. */
export function readMailAddress(typed: string, { own, domain }: AddressRules): MailAddress {
  const text = typed.trim();
  if (text === '') return { ok: false, trouble: 'to whom? A call, or an address of the internet' };
  const atDomain = domain !== '' && text.toUpperCase().endsWith(`@${domain.toUpperCase()}`);
  const local = atDomain ? text.slice(0, -domain.length - 1) : text;
  if (local.includes('@')) {
    const host = INTERNET.exec(local)?.[1];
    if (host === undefined)
      return { ok: false, trouble: `“${text}” is no address: it reads name@host.example` };
    return { ok: true, address: `SMTP:${host}`, kind: 'internet' };
  }
  return readStation(local.toUpperCase(), own);
}

function readStation(raised: string, own: readonly string[]): MailAddress {
  if (own.includes(raised) || own.includes(callWithoutSsid(raised)))
    return {
      ok: false,
      trouble: `nobody can mail himself: the service would not hand it back. ${TEST_ADDRESS} answers on the next connection`,
    };
  if (!NAME.test(raised))
    return { ok: false, trouble: `“${raised}” is no address: a call, or name@host.example` };
  if (isPlaceholderCall(raised)) return { ok: false, trouble: `${raised} stands for a call and is none` };
  if (raised === TEST_ADDRESS) return { ok: true, address: raised, kind: 'name' };
  const call = parseCallSign(raised);
  if (isMalformed(call) || !hasAmateurForm(call.call))
    return {
      ok: true,
      address: raised,
      kind: 'name',
      doubt: `${raised} has not the form of a call: is it a name that the service knows?`,
    };
  return { ok: true, address: raised, kind: 'station' };
}

/** `SMTP:user@host` as people read it. */
export const shownAddress = (address: string): string => address.replace(/^SMTP:/i, '');
