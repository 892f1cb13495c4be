import express, { type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { pinoHttp } from 'pino-http';
import { log } from '../log';
import { projectRoot } from '../root';
import { answerError, notFound } from './answers';
import { backupRoutes } from './backup-routes';
import { blobRoutes } from './blob-routes';
import { pictureRoutes } from './picture-routes';
import { projectRoutes } from './project-routes';
import { saveRoutes } from './save-routes';
import { resultRoutes } from './result-routes';
import { runRoutes } from './run-routes';
import { exportRoutes } from './export-routes';
import type { Services } from './services';
import { sweepRoutes } from './sweep-routes';
import { strictRouter } from './strict-router';
import { trust } from './trust';

/** The HTTP application: the API under /api, the built pages everywhere else. */
export function createApp(services: Services): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.set('case sensitive routing', true);
  app.set('strict routing', true);
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'", 'data:'],
          workerSrc: ["'self'", 'blob:'],
          connectSrc: ["'self'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  const { ownHost, ownPage } = trust();
  app.use(ownHost);
  app.use(
    pinoHttp({
      logger: log,
      autoLogging: { ignore: (request) => !request.url?.startsWith('/api') },
      quietReqLogger: true,
      serializers: { req: ({ method, url }) => ({ method, url }), res: ({ statusCode }) => ({ statusCode }) },
    }),
  );
  const api = strictRouter();
  api.use(ownPage);
  // What is answered changes all the time, and is nobody else's; meshes say otherwise themselves.
  api.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  api.get('/health', (_request, response) => {
    if (services.watch.isUp) response.json({ status: 'ok', database: 'up' });
    else response.status(503).json({ status: 'waiting', database: 'away' });
  });
  api.use(
    rateLimit({
      windowMs: 60_000,
      limit: 3000,
      standardHeaders: true,
      legacyHeaders: false,
      message: { code: 'too-many', message: 'Too many requests; wait a minute.' },
    }),
  );
  api.use(backupRoutes(services));
  api.use(blobRoutes(services));
  api.use(pictureRoutes(services));
  api.use(projectRoutes(services));
  api.use(saveRoutes(services));
  api.use(exportRoutes(services));
  api.use(sweepRoutes(services));
  api.use(runRoutes(services));
  api.use(resultRoutes(services));
  api.use((_request, _response, next) => next(notFound('This address')));
  app.use('/api', api);

  const pages = join(projectRoot(), 'web/dist');
  if (existsSync(pages)) {
    app.use('/assets', express.static(join(pages, 'assets'), { immutable: true, maxAge: '1y' }));
    app.use(express.static(pages, { index: false }));
    app.get('/{*path}', (_request, response) =>
      response.set('Cache-Control', 'no-cache').sendFile(join(pages, 'index.html')),
    );
  }
  app.use((_request, _response, next) => next(notFound('This address')));
  app.use(answerError);
  return app;
}
