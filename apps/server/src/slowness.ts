import type { Server } from 'node:http';

/** Who is slow with headers or body is let go, and all together hold no more connections than pages need. */
const HEADERS_LIMIT_MS = 10_000;
const REQUEST_LIMIT_MS = 120_000;
const MOST_CONNECTIONS = 500;
/** After a rest: one that is closed just when it is used again is a command that failed for nothing. */
const KEPT_MS = 75_000;

export function limitSlowness(
  server: Pick<Server, 'headersTimeout' | 'requestTimeout' | 'maxConnections' | 'keepAliveTimeout'>,
): void {
  server.headersTimeout = HEADERS_LIMIT_MS;
  server.requestTimeout = REQUEST_LIMIT_MS;
  server.maxConnections = MOST_CONNECTIONS;
  server.keepAliveTimeout = KEPT_MS;
}
