import type { NextFunction, Request, Response } from 'express';
import type { FailureReason } from '@mistpeak/contract/failures';
import type { Clock } from '@mistpeak/link/clock';
import { problem } from '../problems/problem.js';
import type { AccessService } from './access.service.js';
import { isOwnPage } from './own-page.js';

/** What needs no role: how one becomes somebody. Everything else behind the door does. */
const OPEN: readonly string[] = [
  'GET /api/v1/access',
  'GET /api/v1/access/authority',
  'POST /api/v1/access/login',
  'POST /api/v1/access/pair',
  'POST /api/v1/access/entrances',
  'POST /api/v1/access/logout',
];
/** The page itself is no secret: it is the same everywhere. What it shows lies behind these. */
const BEHIND_THE_DOOR = /^\/(?:api|map)(?:\/|$)/i;
const READING: readonly string[] = ['GET', 'HEAD'];
/** What a volunteer at an event desk does besides looking: nothing of it is sent, and nothing is set. */
const WATCHER_MAY = [
  /^PUT \/api\/v1\/watch\/alarms\/[^/]+\/acknowledgement$/,
  /^POST \/api\/v1\/watch\/notes$/,
];
/** What comes through an open door must have come whole in this time. */
const OPEN_BODY_LIMIT_MS = 10_000;
const LINGER_MS = 500;

export const isOpenRoute = ({ method = '', path }: { method?: string; path: string }): boolean =>
  OPEN.includes(`${method} ${path}`);

/**
 * Asks every request who it is before anything of its body is read: a page from elsewhere, nobody, and a watcher with a
 * command are sent away, and their connection with them. One place, so that no new command is forgotten.
 */
export function door(access: AccessService, clock: Clock) {
  return (request: Request, response: Response, next: NextFunction): void => {
    const refusal = refusalOf(request, access);
    if (refusal) return sendAway(request, response, refusal);
    if (isOpenRoute(request)) limitBody(request, clock);
    next();
  };
}

function refusalOf(request: Request, access: AccessService): FailureReason | undefined {
  if (!isOwnPage(request)) return 'foreign-page';
  if (!BEHIND_THE_DOOR.test(request.path) || isOpenRoute(request)) return undefined;
  const role = access.roleOf(request);
  if (role === null) return 'login-needed';
  if (role === 'operator' || READING.includes(request.method)) return undefined;
  const asked = `${request.method} ${request.path}`;
  return WATCHER_MAY.some((may) => may.test(asked)) ? undefined : 'watcher-cannot';
}

function sendAway(request: Request, response: Response, reason: FailureReason): void {
  const body = problem(reason);
  const hasBody =
    request.headers['content-length'] !== undefined || request.headers['transfer-encoding'] !== undefined;
  // Not by "connection: close": the line would be cut while the body still comes, and the answer lost with it.
  if (hasBody) response.once('finish', () => hangUp(request));
  response.status(body.status).type('application/problem+json').send(body);
}

/** The answer must reach one who is still sending: nothing more is read, and after a moment the line is cut. */
function hangUp({ socket }: Request): void {
  socket.end();
  socket.pause();
  setTimeout(() => socket.destroy(), LINGER_MS).unref();
}

function limitBody(request: Request, clock: Clock): void {
  const cancel = clock.after(OPEN_BODY_LIMIT_MS, () => {
    if (!request.complete) request.socket.destroy();
  });
  request.once('close', cancel);
}
