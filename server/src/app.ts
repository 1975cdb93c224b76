import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ValidationPipe, type INestApplication, type LoggerService } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import compression from 'compression';
import express, { type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { DataSource } from 'typeorm';
import { AppModule } from './app.module.ts';
import { closed } from './http/closed-document.ts';
import { FloorLogger, requestLog } from './http/floor-log.ts';
import { onlyServedHosts } from './http/hosts.ts';
import { OnceInterceptor } from './http/once.interceptor.ts';
import { plainBody } from './http/plain-body.ts';
import { ProblemFilter, unreadableBody } from './http/problem.filter.ts';
import { TouchInterceptor } from './setup/touch.ts';

/** Room for a pasted sheet of readings and for a day of climate; nothing a client sends is larger. */
const LARGEST_BODY = '1mb';

export function describeApi(app: INestApplication): OpenAPIObject {
  const config = new DocumentBuilder()
    .setTitle('Ample Crane')
    .setDescription(
      'Everything that happens on the floor is an entry in one log; everything shown is computed from it.',
    )
    .setVersion('1')
    .build();
  const document = SwaggerModule.createDocument(app, config, {
    operationIdFactory: (controller, method) => `${controller.replace('Controller', '')}.${method}`,
  });
  return closed(document);
}

/** Key and certificate of TLS_KEY and TLS_CERT, files in PEM; undefined: plain HTTP. @throws when only one is given, or unreadable. */
export function tlsFiles(): { key: Buffer; cert: Buffer } | undefined {
  const { TLS_CERT: cert, TLS_KEY: key } = process.env;
  if (!cert && !key) return undefined;
  if (!cert || !key) throw new Error('TLS needs both: the certificate in TLS_CERT and its key in TLS_KEY');
  return { key: readFileSync(key), cert: readFileSync(cert) };
}

/** The whole server, not yet listening. `webFolder`: the built web pages; left out in tests. */
export async function createApp(
  options: { webFolder?: string; logger?: LoggerService | false } = {},
): Promise<NestExpressApplication> {
  const tls = tlsFiles();
  const app = await NestFactory.create<NestExpressApplication>(AppModule, {
    logger: options.logger ?? new FloorLogger(),
    bodyParser: false,
    ...(tls ? { httpsOptions: tls } : {}),
    abortOnError: false,
  });
  app.setGlobalPrefix('api');
  app.use(onlyServedHosts());
  app.use('/api', (_request: Request, response: Response, next: NextFunction) => {
    response.setHeader('cache-control', 'no-store');
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          imgSrc: ["'self'", 'data:'],
          styleSrc: ["'self'", "'unsafe-inline'"],
          workerSrc: ["'self'", 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(compression({ filter: (req, res) => req.path !== '/api/events' && compression.filter(req, res) }));
  if (options.logger !== false) app.use(requestLog());
  app.use(express.json({ limit: LARGEST_BODY }), unreadableBody, plainBody);
  app.useGlobalPipes(new ValidationPipe({ whitelist: true, forbidNonWhitelisted: true, transform: true }));
  app.useGlobalFilters(new ProblemFilter());
  app.useGlobalInterceptors(new TouchInterceptor(), new OnceInterceptor(app.get(DataSource)));
  app.enableShutdownHooks();
  SwaggerModule.setup('api/docs', app, () => describeApi(app), {
    jsonDocumentUrl: 'api/openapi.json',
    customSiteTitle: 'Ample Crane API',
  });
  if (options.webFolder) serveWeb(app, options.webFolder);
  return app;
}

/** The built pages; any path that is not the API is a page of the one application. */
function serveWeb(app: NestExpressApplication, folder: string): void {
  if (!existsSync(join(folder, 'index.html')))
    throw new Error(`the web pages are not built: ${folder} holds no index.html`);
  app.useStaticAssets(join(folder, 'assets'), { prefix: '/assets', immutable: true, maxAge: '1y' });
  app.useStaticAssets(folder, { index: false });
  app
    .getHttpAdapter()
    .getInstance()
    .get(/^\/(?!api\/).*/, (_req: Request, res: Response) => {
      res.setHeader('cache-control', 'no-cache');
      res.sendFile(join(folder, 'index.html'));
    });
}
