import type { NextFunction, Request, Response } from 'express';
import { problem } from '../problems/problem.js';
import { isOwnPage } from './own-page.js';

export function refuseForeignPages(request: Request, response: Response, next: NextFunction): void {
  if (isOwnPage(request)) return next();
  response.status(403).type('application/problem+json').send(problem('foreign-page'));
}
