import 'reflect-metadata';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { getDataSourceToken } from '@nestjs/typeorm';
import type { NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { pinoHttp } from 'pino-http';
import type { DataSource } from 'typeorm';
import { AppModule } from './app.module.ts';
import { ensureEnsemble, seedDemo } from './demo/seed.ts';
import { fileLogger, NestPinoLogger } from './log/logger.ts';
import { openApiDocument } from './openApi.ts';
import { ProblemFilter } from './problems/problemFilter.ts';
import { validationPipe } from './problems/validation.ts';

const BODY_LIMIT = '4mb';
const FILE_LIMIT = '33mb';
const LOOPBACK_HOST = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;

export interface ServerOptions {
  readonly port: number;
  readonly dataFolder: string;
  /** Built web files; left out, only the API is served. */
  readonly webFolder?: string;
  /** Demo ensemble to put into a new database; left out, it stays empty. */
  readonly demoFolder?: string;
}

/** Starts the whole server on 127.0.0.1; resolves once it answers. Rejects with the listen error (EADDRINUSE …). */
export async function startServer(options: ServerOptions): Promise<NestExpressApplication> {
  const logger = fileLogger(options.dataFolder);
  const app = await NestFactory.create<NestExpressApplication>(
    AppModule.with(join(options.dataFolder, 'anchorbeat.sqlite')),
    { logger: new NestPinoLogger(logger), bodyParser: false, abortOnError: false },
  );
  app.use(pinoHttp({ logger, serializers: { req: loggedRequest, res: loggedResponse } }));
  secure(app);
  app.useBodyParser('json', { limit: BODY_LIMIT });
  app.useBodyParser('raw', { limit: FILE_LIMIT, type: 'application/octet-stream' });
  app.useGlobalPipes(validationPipe());
  app.useGlobalFilters(new ProblemFilter());
  serveOpenApi(app);
  if (options.webFolder) serveWeb(app, options.webFolder);
  app.enableShutdownHooks();
  const dataSource = app.get<DataSource>(getDataSourceToken());
  if (options.demoFolder) await seedDemo(dataSource, options.demoFolder);
  await ensureEnsemble(dataSource);
  await app.listen(options.port, '127.0.0.1');
  return app;
}

function loggedRequest({ id, method, url }: { id: unknown; method: string; url: string }) {
  return { id, method, url };
}

function loggedResponse({ statusCode }: { statusCode: number }) {
  return { statusCode };
}

function secure(app: NestExpressApplication): void {
  app.disable('x-powered-by');
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (LOOPBACK_HOST.test(request.headers.host ?? '')) next();
    else response.status(403).type('text/plain').send('This server answers on this machine only.');
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: { styleSrc: ["'self'", "'unsafe-inline'"], upgradeInsecureRequests: null },
      },
      strictTransportSecurity: false,
      crossOriginOpenerPolicy: false,
    }),
  );
}

function serveOpenApi(app: NestExpressApplication): void {
  let document: unknown;
  app.use('/api/openapi.json', (_request: Request, response: Response) => {
    document ??= openApiDocument(app);
    response.json(document);
  });
}

/** The web app and, for its own addresses, its one page. What is named by its content may be cached for good. */
function serveWeb(app: NestExpressApplication, webFolder: string): void {
  const page = join(webFolder, 'index.html');
  if (!existsSync(page)) throw new Error(`the web app is not built: ${page} is missing`);
  app.useStaticAssets(join(webFolder, 'assets'), { prefix: '/assets', immutable: true, maxAge: '365d' });
  app.useStaticAssets(webFolder, { index: false });
  app.use((request: Request, response: Response, next: NextFunction) => {
    const isPage =
      request.method === 'GET' && !request.path.startsWith('/api/') && !request.path.includes('.');
    if (isPage) response.sendFile(page, { headers: { 'Cache-Control': 'no-cache' } });
    else next();
  });
}
