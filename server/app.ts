import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import Router from '@koa/router';
import { endpoints } from '@larder/contract/index';
import { openapi } from '@larder/contract/openapi';
import { Refusal } from '@larder/core/refusal';
import { constants } from 'node:zlib';
import Koa, { type Middleware } from 'koa';
import { koaBody } from 'koa-body';
import compress from 'koa-compress';
import helmet from 'koa-helmet';
import serveStatic from 'koa-static';
import type { Logger } from 'pino';
import { billRoutes } from './areas/bills/routes';
import { bookRoutes } from './areas/books/routes';
import { catalogRoutes } from './areas/catalog/routes';
import { exchangeRoutes } from './areas/exchange/routes';
import { handoverRoutes } from './areas/handover/routes';
import { inboundRoutes } from './areas/inbound/routes';
import { postRoutes } from './areas/post/routes';
import { landedRoutes } from './areas/landed/routes';
import { listRoutes } from './areas/lists/routes';
import { outboundRoutes } from './areas/outbound/routes';
import { peopleRoutes } from './areas/people/routes';
import { planningRoutes } from './areas/planning/routes';
import { printingRoutes } from './areas/printing/routes';
import { setupRoutes } from './areas/setup/routes';
import { stockRoutes } from './areas/stock/routes';
import { problems } from './http/problem';
import { serveOn, type Ground } from './http/route';

const webFolder = join(import.meta.dirname, '../web/dist');

/** The whole server: what every request passes, then the areas, then the pages. */
export function createApp(ground: Ground, log: Logger): { app: Koa; router: Router } {
  const router = new Router();
  const serve = serveOn(router, ground);
  router.get('/api/health', async (ctx) => {
    await ground.pool.query('SELECT 1');
    ctx.body = { status: 'well' };
  });
  router.get('/api/openapi.json', (ctx) => (ctx.body = openapi(endpoints)));
  peopleRoutes(router, ground);
  setupRoutes(serve);
  catalogRoutes(serve);
  inboundRoutes(serve);
  postRoutes(serve);
  billRoutes(serve);
  landedRoutes(serve);
  bookRoutes(serve);
  handoverRoutes(serve);
  stockRoutes(serve);
  outboundRoutes(serve);
  planningRoutes(serve);
  listRoutes(serve);
  printingRoutes(serve);
  exchangeRoutes(serve, ground, log);

  const app = new Koa();
  app.on('error', (error: Error) => log.warn({ err: error }, 'connection'));
  app.use(logged(log));
  app.use(problems(log));
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  const brotli = (type: string) => ({ params: { [constants.BROTLI_PARAM_QUALITY]: type === 'application/json' ? 1 : 5 } });
  app.use(compress({ threshold: 2048, br: brotli }));
  app.use(ownSiteOnly);
  app.use(bodies());
  app.use(router.routes());
  app.use(router.allowedMethods());
  app.use(pages());
  return { app, router };
}

/** Bodies are JSON of at most 1 MB; where pictures and whole files come in, of 24. */
function bodies(): Middleware {
  const body = (jsonLimit: string) =>
    koaBody({ jsonLimit, textLimit: '1mb', formLimit: '1mb', includeUnparsed: false, parsedMethods: ['POST', 'PUT'] as never });
  const [usual, large] = [body('1mb'), body('24mb')];
  return (ctx, next) => (/^\/api\/(catalog\/pictures|exchange)\b/.test(ctx.path) ? large : usual)(ctx, next);
}

const logged =
  (log: Logger): Middleware =>
  async (ctx, next) => {
    const began = performance.now();
    await next();
    log.debug({ method: ctx.method, path: ctx.path, status: ctx.status, ms: Math.round(performance.now() - began) }, 'request');
  };

/** Refuses writes that another site's page sends, and writes that are not JSON. */
const ownSiteOnly: Middleware = async (ctx, next) => {
  if (ctx.method !== 'GET' && ctx.method !== 'HEAD') {
    const origin = ctx.get('Origin');
    if (origin !== '' && new URL(origin).host !== ctx.host) throw new Refusal(403, 'cross-site', 'Writing from another site is refused.');
    if (ctx.request.length !== 0 && ctx.request.length !== undefined && !ctx.is('application/json')) throw new Refusal(415, 'not-json', 'Send JSON.');
  }
  await next();
};

/** The built web application: its files, and its one page for every address of its own. */
function pages(): Middleware {
  const files = serveStatic(webFolder, { index: false, maxAge: 31_536_000_000, immutable: true, brotli: true });
  return async (ctx, next) => {
    if (ctx.path.startsWith('/api/')) return next();
    if (ctx.path.startsWith('/assets/')) return files(ctx, next);
    if (!existsSync(join(webFolder, 'index.html'))) throw new Refusal(404, 'not-built', 'The pages are not built; start with npm start.');
    ctx.type = 'html';
    ctx.set('Cache-Control', 'no-cache');
    ctx.body = await readFile(join(webFolder, 'index.html'), 'utf8');
  };
}
