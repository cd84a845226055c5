import type { IncomingMessage } from 'node:http';

const LOOPBACK_HOSTS = ['localhost', '127.0.0.1', '[::1]'];

/**
 * Any web page can reach a loopback socket, so each request and upgrade must name us as its host,
 * and a browser's Origin, where sent, must be exactly ours (common practice against DNS rebinding and
 * cross-site requests; Fetch standard, "Origin header").
 */
export function isOwnPage({ headers, socket }: IncomingMessage): boolean {
  const { host, origin } = headers;
  if (!host || !isOwnHost(host, socket.localPort)) return false;
  return origin === undefined || origin === `http://${host}`;
}

function isOwnHost(host: string, port: number | undefined): boolean {
  const match = /^(\[[^\]]+\]|[^:]+)(?::(\d+))?$/.exec(host.toLowerCase());
  if (!match) return false;
  return LOOPBACK_HOSTS.includes(match[1] as string) && Number(match[2] ?? 80) === port;
}

/** Comes from this very machine. */
export function isLoopback({ socket }: IncomingMessage): boolean {
  const address = socket.remoteAddress ?? '';
  return address === '::1' || /^(::ffff:)?127\./.test(address);
}
