import { ValidationPipe, type INestApplication } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import { WsAdapter } from '@nestjs/platform-ws';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { CAPTURE_TYPE } from '@mistpeak/contract/frame';
import helmet from 'helmet';
import { refuseForeignPages } from './access/own-page.middleware.js';
import { AppModule } from './app.module.js';
import type { Configuration } from './configuration.js';
import { ProblemFilter } from './problems/problem.filter.js';
import { fieldsRefused } from './problems/problem.js';

/** The server, ready to listen. */
export async function createApplication(configuration: Configuration): Promise<INestApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(configuration), {
    logger: ['error', 'warn'],
    forceCloseConnections: true,
    abortOnError: false,
  });
  app.use(refuseForeignPages);
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'connect-src': ["'self'", 'ws:', 'wss:'],
          // Radix sets positions by style attributes.
          'style-src': ["'self'", "'unsafe-inline'"],
          'upgrade-insecure-requests': null,
        },
      },
    }),
  );
  app.useBodyParser('raw', { type: CAPTURE_TYPE, limit: '256mb' });
  // A kit of hundreds of items is longer than the usual limit.
  app.useBodyParser('json', { limit: '4mb' });
  app.setGlobalPrefix('api/v1');
  app.useWebSocketAdapter(new WsAdapter(app));
  app.useGlobalPipes(
    new ValidationPipe({
      whitelist: true,
      forbidNonWhitelisted: true,
      transform: true,
      exceptionFactory: fieldsRefused,
    }),
  );
  app.useGlobalFilters(new ProblemFilter());
  return app;
}
