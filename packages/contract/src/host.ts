import { malformed, type Malformed } from '@mistpeak/core/bits/malformed';

const LABEL = /^[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?$/i;
const IPV6 = /^[0-9a-f:.]+$/i;

/** A host name or address as typed, without a port (RFC 1123, 2.1). */
export function parseHost(text: string): string | Malformed {
  const host = text.trim();
  if (host === '') return malformed('give a name or an address, as 127.0.0.1');
  if (/^[a-z]+:\/\//i.test(host))
    return malformed('give the name alone, without "//" and what stands before it');
  if (host.includes(':')) {
    if (host.split(':').length === 2) return malformed('the port has a field of its own', host.indexOf(':'));
    return IPV6.test(host) ? host : malformed('this is not an IPv6 address');
  }
  if (/^[\d.]+$/.test(host))
    return isIpv4(host) ? host : malformed('an IPv4 address is four numbers from 0 to 255');
  const bad = host.length > 253 || host.split('.').some((label) => !LABEL.test(label));
  return bad ? malformed('a host name has letters, digits, hyphens and dots') : host;
}

function isIpv4(host: string): boolean {
  const parts = host.split('.');
  return parts.length === 4 && parts.every((part) => /^\d{1,3}$/.test(part) && Number(part) <= 255);
}
