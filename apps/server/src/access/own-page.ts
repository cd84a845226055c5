import type { IncomingMessage } from 'node:http';
import type { Socket } from 'node:net';
import { ownNames } from '../lan/lan.service.js';

const LOOPBACK_HOSTS = ['localhost', '127.0.0.1', '[::1]'];

/**
 * Any web page can reach a loopback socket, so each request and upgrade must name us as its host,
 * and a browser's Origin, where sent, must be exactly ours (common practice against DNS rebinding and
 * cross-site requests; Fetch standard, "Origin header").
 */
export function isOwnPage({ headers, socket }: IncomingMessage): boolean {
  const { host, origin } = headers;
  const isHttps = 'encrypted' in socket;
  // From the network: the very address that was called, or a name of this machine.
  const hosts = isHttps ? [...LOOPBACK_HOSTS, ...ownNames(), addressCalled(socket)] : LOOPBACK_HOSTS;
  if (!host || !isOwnHost(host, hosts, socket.localPort, isHttps ? 443 : 80)) return false;
  return origin === undefined || origin === `${isHttps ? 'https' : 'http'}://${host}`;
}

function isOwnHost(
  host: string,
  hosts: readonly string[],
  port: number | undefined,
  usualPort: number,
): boolean {
  const match = /^(\[[^\]]+\]|[^:]+)(?::(\d+))?$/.exec(host.toLowerCase());
  if (!match) return false;
  return hosts.includes(match[1] as string) && Number(match[2] ?? usualPort) === port;
}

const addressCalled = ({ localAddress = '' }: Socket): string => localAddress.replace(/^::ffff:/, '');

/** Comes from this very machine. */
export function isLoopback({ socket }: IncomingMessage): boolean {
  const address = socket.remoteAddress ?? '';
  return address === '::1' || /^(::ffff:)?127\./.test(address);
}
