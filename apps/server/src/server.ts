import 'reflect-metadata';
import { existsSync, mkdirSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { NextFunction, Request, Response } from 'express';
import { pinoHttp } from 'pino-http';
import { AccountsService } from './accounts/accounts.service.ts';
import { LOOPBACK_HOST } from './accounts/loopback.ts';
import { AppModule } from './app.module.ts';
import { backUp } from './backup/copyDatabase.ts';
import { Soundness } from './backup/soundness.ts';
import { SerialWriter } from './database/connection.ts';
import {
  DataFolderError,
  heldFolder,
  inspectDatabase,
  markFolder,
  startingTurn,
} from './database/dataFolder.ts';
import { MIGRATION_NAMES } from './database/dataSource.ts';
import { ensureEnsemble, seedDemo } from './demo/seed.ts';
import { packAnswers, sendCompressed } from './http/compressed.ts';
import { takeInBodies } from './http/bodies.ts';
import { methodsByPath } from './http/routes.ts';
import { secure } from './http/secure.ts';
import { watchConnections } from './http/stopping.ts';
import { fileLogger, NestPinoLogger } from './log/logger.ts';
import { openApiDocument } from './openApi.ts';
import { ProblemFilter } from './problems/problemFilter.ts';
import { Addresses } from './rooms/addresses.ts';
import { Siblings } from './rooms/siblings.ts';
import { RoomSocketAdapter } from './rooms/socketAdapter.ts';
import { validationPipe } from './problems/validation.ts';

const KEEP_ALIVE_MS = 55_000;
const LOOPBACK = '127.0.0.1';
const NO_ACCOUNT =
  'Anchorbeat is not opened to the hall before it has an account: start it without --lan, open it on this machine, and make the first account there';

export interface ServerOptions {
  readonly port: number;
  readonly dataFolder: string;
  /** Built web files; left out, only the API is served. */
  readonly webFolder?: string;
  /** Demo ensemble to put into a new database; left out, it stays empty. */
  readonly demoFolder?: string;
  /** Where it listens: this machine only, unless it is opened to the hall, which needs an account. */
  readonly host?: string;
  /** The Redis by which several servers on one data folder serve the same rooms; left out, this one serves alone. */
  readonly redisUrl?: string;
  /** Key and certificate in PEM, for https. */
  readonly tls?: { readonly key: string; readonly cert: string };
}

/** A server that answers. */
export interface RunningServer {
  readonly url: string;
  /** Every address a phone could use, the likeliest first. */
  readonly addresses: readonly string[];
  /** Finishes what is under way and ends, within five seconds. */
  readonly close: () => Promise<void>;
}

/**
 * Starts the whole server, on 127.0.0.1 unless another host is named; resolves once it answers.
 * @throws DataFolderError where its data must not be opened; the listen error (EADDRINUSE …); the database's own.
 */
export async function startServer(options: ServerOptions): Promise<RunningServer> {
  const { dataFolder } = options;
  mkdirSync(dataFolder, { recursive: true });
  const folder = heldFolder(dataFolder, { isShared: options.redisUrl !== undefined });
  const turn = startingTurn(dataFolder);
  try {
    const { isNew, pendingMigrations } = inspectDatabase(dataFolder, MIGRATION_NAMES);
    if (!isNew && pendingMigrations > 0) await backUp(dataFolder, 'before-migration');
    const app = await openedApp(options, isNew);
    markFolder(dataFolder);
    turn.end();
    // A page that asks again just as its idle connection is closed would see an error: idle ones are kept longer than one thinks.
    app.getHttpServer().keepAliveTimeout = KEEP_ALIVE_MS;
    const endConnections = watchConnections(app.getHttpServer());
    return {
      url: await app.getUrl(),
      addresses: app.get(Addresses).list(),
      close: async () => {
        await endConnections();
        await app.close();
        folder.release();
      },
    };
  } catch (error) {
    turn.end();
    folder.release();
    throw error;
  }
}

async function openedApp(
  { dataFolder, demoFolder, webFolder, port, host = LOOPBACK, redisUrl, tls }: ServerOptions,
  isNew: boolean,
): Promise<NestExpressApplication> {
  const logger = fileLogger(dataFolder);
  // Its client is a third of all that the server would load, and most serve alone.
  const redis = redisUrl === undefined ? null : await (await import('./rooms/redis.ts')).redisLink(redisUrl);
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(dataFolder), {
    logger: new NestPinoLogger(logger),
    bodyParser: false,
    abortOnError: false,
    ...(tls && { httpsOptions: { key: tls.key, cert: tls.cert } }),
  });
  const addresses = app.get(Addresses);
  const isOurHost = (name: string) => LOOPBACK_HOST.test(name) || addresses.isOurs(name);
  app.useWebSocketAdapter(new RoomSocketAdapter(app, isOurHost, redis, app.get(Siblings)));
  app.use(
    pinoHttp<Request, Response>({
      logger,
      serializers: { req: loggedRequest, res: loggedResponse },
      customLogLevel: loggedAs,
    }),
  );
  secure(app, isOurHost);
  app.use(packAnswers());
  takeInBodies(app);
  app.useGlobalPipes(validationPipe());
  const document = once(() => openApiDocument(app));
  app.useGlobalFilters(
    new ProblemFilter(methodsByPath(document), (error) => app.get(Soundness, { strict: false }).met(error)),
  );
  app.use('/api/openapi.json', (_request: Request, response: Response) => void response.json(document()));
  if (webFolder) serveWeb(app, webFolder);
  const writer = app.get(SerialWriter);
  if (demoFolder && isNew) await seedDemo(writer, demoFolder);
  await ensureEnsemble(writer);
  const isOpenToHall = host !== LOOPBACK;
  if (isOpenToHall && !(await app.get(AccountsService).hasAccounts())) {
    await app.close();
    throw new DataFolderError(NO_ACCOUNT);
  }
  await app.listen(port, host);
  const { port: listening } = app.getHttpServer().address() as AddressInfo;
  addresses.listening(listening, { isOpenToHall, isHttps: tls !== undefined });
  return app;
}

function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}

function loggedRequest({ id, method, url }: { id: unknown; method: string; url: string }) {
  return { id, method, url };
}

/** What makes up a page is sent by the dozen: nothing is said of it where it is there. */
function loggedAs({ originalUrl }: Request, { statusCode }: Response, error?: Error) {
  return isAsset(originalUrl) && statusCode < 400 && !error ? 'silent' : 'info';
}

function loggedResponse({ statusCode }: { statusCode: number }) {
  return { statusCode };
}

/** A stand is a page of its own, small enough for a phone in a hall. */
const STAND_PAGE = /^\/s(\/|$)/;
const isAsset = (path: string) => path.startsWith('/assets/');

/** The web app and, for its own addresses, its one page. What is named by its content may be cached for good. */
function serveWeb(app: NestExpressApplication, webFolder: string): void {
  const page = join(webFolder, 'index.html');
  const standPage = join(webFolder, 'stand.html');
  if (!existsSync(page)) throw new Error(`the web app is not built: ${page} is missing`);
  app.use(sendCompressed(webFolder, isAsset));
  app.useStaticAssets(join(webFolder, 'assets'), { prefix: '/assets', immutable: true, maxAge: '365d' });
  app.useStaticAssets(webFolder, { index: false });
  app.use((request: Request, response: Response, next: NextFunction) => {
    const isRead = request.method === 'GET' || request.method === 'HEAD';
    const isPage = isRead && !request.path.startsWith('/api/') && !request.path.includes('.');
    const file = STAND_PAGE.test(request.path) ? standPage : page;
    if (isPage) response.sendFile(file, { headers: { 'Cache-Control': 'no-cache' } });
    else next();
  });
}
