import type { IncomingMessage } from 'node:http';
import { ValidationPipe, type INestApplication } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { exceedsJsonBounds } from '@mistpeak/core/bits/json-bounds';
import { LETTERS_TYPE } from '@mistpeak/contract/mail-files';
import { TILE_TYPE } from '@mistpeak/contract/elevation';
import { CAPTURE_TYPE } from '@mistpeak/contract/frame';
import type { Clock } from '@mistpeak/link/clock';
import { json } from 'express';
import helmet from 'helmet';
import { AccessService } from './access/access.service.js';
import { door, isOpenRoute } from './access/door.js';
import { GuardedSockets } from './access/sockets.js';
import { CLOCK } from './adapters/system-clock.js';
import { AppModule, MIGRATIONS } from './app.module.js';
import type { Configuration } from './configuration.js';
import { migrate } from './database/migrate.js';
import { ProblemFilter } from './problems/problem.filter.js';
import { fieldsRefused, ProblemException } from './problems/problem.js';
import { limitSlowness } from './slowness.js';

/** The server, ready to listen. */
export async function createApplication(configuration: Configuration): Promise<INestApplication> {
  await migrate(configuration.databaseUrl, MIGRATIONS);
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(configuration), {
    logger: ['error', 'warn'],
    forceCloseConnections: true,
    abortOnError: false,
    bodyParser: false,
  });
  limitSlowness(app.getHttpServer());
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'connect-src': ["'self'", 'ws:', 'wss:'],
          // Pictures that are about to go with a letter are shown by the page itself.
          'img-src': ["'self'", 'data:', 'blob:'],
          // Radix sets positions by style attributes.
          'style-src': ["'self'", "'unsafe-inline'"],
          'upgrade-insecure-requests': null,
        },
      },
      // It would bind every other service of this machine's name to HTTPS too.
      strictTransportSecurity: false,
    }),
  );
  // Ahead of everything that reads a body.
  app.use(door(app.get(AccessService), app.get<Clock>(CLOCK)));
  app.useBodyParser('raw', { type: CAPTURE_TYPE, limit: '256mb' });
  app.useBodyParser('raw', { type: TILE_TYPE, limit: '32mb' });
  app.useBodyParser('raw', { type: LETTERS_TYPE, limit: '64mb' });
  app.use(json({ limit: '4kb', type: (request) => isJson(request) && isOpen(request), verify }));
  // A list of tens of thousands of gateways.
  app.use(json({ limit: '24mb', type: (request) => isJson(request) && isList(request), verify }));
  // A kit of hundreds of items is longer than the usual limit.
  app.use(json({ limit: '4mb', type: isJson, verify }));
  app.setGlobalPrefix('api/v1', { exclude: ['enter', 'map/island.geojson'] });
  app.useWebSocketAdapter(new GuardedSockets(app));
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

const isJson = ({ headers }: IncomingMessage): boolean =>
  /^application\/json\b/.test(headers['content-type'] ?? '');

const isList = ({ url = '' }: IncomingMessage): boolean => url === '/api/v1/gateways/lists';

const isOpen = ({ method, url = '' }: IncomingMessage): boolean =>
  isOpenRoute({ method: method ?? '', path: url.split('?')[0] ?? '' });

/** Before a value is made of it: deep or wide JSON costs far more than its octets. */
function verify(_request: unknown, _response: unknown, octets: Buffer): void {
  if (exceedsJsonBounds(octets)) throw new ProblemException('too-much');
}
