import type { Request, Response } from 'express';
import { cookieName, LOGIN_LASTS_MS } from './logins.js';

export function giveCookie(token: string, request: Request, response: Response): void {
  response.cookie(cookieName(request), token, {
    httpOnly: true,
    sameSite: 'strict',
    secure: request.secure,
    maxAge: LOGIN_LASTS_MS,
  });
}
