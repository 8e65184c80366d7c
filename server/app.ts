import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import Router from '@koa/router';
import { endpoints } from '@larder/contract/index';
import { openapi } from '@larder/contract/openapi';
import { getProgress } from '@larder/contract/work';
import { Refusal } from '@larder/core/refusal';
import { constants } from 'node:zlib';
import Koa, { type Middleware } from 'koa';
import compress from 'koa-compress';
import helmet from 'koa-helmet';
import serveStatic from 'koa-static';
import type { Logger } from 'pino';
import { changedBy, goOn } from './areas/goingOn';
import { peopleRoutes } from './areas/people/routes';
import { calendarOf } from './areas/reminders/calendar';
import { areaRoutes } from './areas/routes';
import { readProgress } from './heavy/progress';
import { problems } from './http/problem';
import { serveOn, signedIn, type Resources } from './http/route';
import { answers } from './db/alone';
import { serverFolder } from './db/folder';

const webFolder = join(serverFolder, '../web/dist');

/** The whole server: what every request passes, then the areas, then the pages. `proxies` stand before it and say who asks, and whether by https. */
export function createApp(ground: Resources, log: Logger, proxies = 0): { app: Koa; router: Router } {
  const router = new Router();
  const serve = serveOn(router, ground);
  router.get('/api/health', async (ctx) => {
    await answers(ground.health);
    ctx.body = { status: 'well' };
  });
  router.get('/api/openapi.json', (ctx) => (ctx.body = openapi(endpoints)));
  peopleRoutes(router, ground, log);
  router.get('/api/live', async (ctx) => {
    const by = await signedIn(ctx, ground.pool, ground.clock());
    if (!ground.live) throw new Refusal(404, 'no-such-address', 'There is nothing at this address.');
    ctx.status = 200;
    ctx.respond = false;
    await ground.live.open(ctx.req, ctx.res, by.id, Number(ctx.query['ago'] ?? 0));
  });
  router.get('/api/calendar/:secret.ics', async (ctx) => {
    const now = ground.clock();
    ctx.type = 'text/calendar; charset=utf-8';
    ctx.body = await calendarOf(ground.pool, ctx.params['secret'] ?? '', now, ground.publicUrl ?? '');
  });
  serve(getProgress, async ({ by }, { params }) => ground.heavy?.progress(by.id, params.key) ?? readProgress(undefined));
  areaRoutes(serve, (work) => {
    const done = ground.heavy
      ? ground.heavy.goOn(work)
      : later().then(() => goOn(ground.pool, work).catch((error: unknown) => log.error({ err: error }, 'what went on failed')));
    void done.then(() => ground.live?.tell(changedBy(work), null));
  });

  const app = new Koa({ proxy: proxies > 0, maxIpsCount: proxies });
  app.on('error', (error: Error) => log.warn({ err: error }, 'connection'));
  app.use(logged(log));
  app.use(problems(log));
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          // The reader of codes before the camera is WebAssembly; scripts in text stay refused.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
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
  app.use(keptByNobody);
  app.use(ownSiteOnly);
  app.use(router.routes());
  app.use(otherMethods);
  app.use(pages());
  return { app, router };
}

const later = () => new Promise((done) => setImmediate(done));

const logged =
  (log: Logger): Middleware =>
  async (ctx, next) => {
    const began = performance.now();
    await next();
    log.debug({ method: ctx.method, path: ctx.path, status: ctx.status, ms: Math.round(performance.now() - began) }, 'request');
  };

/** Answers are about this moment and this person; a file says itself how long it may be kept. */
const keptByNobody: Middleware = async (ctx, next) => {
  if (ctx.path.startsWith('/api/')) ctx.set('Cache-Control', 'no-store');
  await next();
};

/** Refuses writes that another site's page sends. */
const ownSiteOnly: Middleware = async (ctx, next) => {
  if (ctx.method !== 'GET' && ctx.method !== 'HEAD') {
    const origin = ctx.get('Origin');
    if (origin !== '' && (!URL.canParse(origin) || new URL(origin).host !== ctx.host))
      throw new Refusal(403, 'cross-site', 'Writing from another site is refused.');
  }
  await next();
};

/** An address that is there, asked in a way it does not know. */
const otherMethods: Middleware = (ctx, next) => {
  const known = ctx.path.startsWith('/api/')
    ? ((ctx as { matched?: { methods: string[] }[] }).matched ?? []).flatMap(({ methods }) => methods)
    : ['GET', 'HEAD'];
  if (known.length === 0 || known.includes(ctx.method)) return next();
  ctx.set('Allow', [...new Set(known)].join(', '));
  throw new Refusal(405, 'no-such-method', `This address does not know ${ctx.method}.`);
};

/** What an installed application is made by: asked for anew each time, so that a newer one is found. */
const installedFiles = ['/sw.js', '/manifest.webmanifest'];

/** The built web application: its files, and its one page for every address of its own. */
function pages(): Middleware {
  const files = serveStatic(webFolder, { index: false, maxAge: 31_536_000_000, immutable: true, brotli: true });
  const inPlace = serveStatic(webFolder, { index: false });
  return async (ctx, next) => {
    if (ctx.path.startsWith('/api/')) return next();
    if (installedFiles.includes(ctx.path)) {
      ctx.set('Cache-Control', 'no-cache');
      await inPlace(ctx, () => Promise.reject(new Refusal(404, 'not-built', 'The pages are not built; start with npm start.')));
      return;
    }
    if (ctx.path.startsWith('/assets/')) {
      await files(ctx, () => Promise.reject(new Refusal(404, 'no-such-address', 'There is nothing at this address.')));
      return;
    }
    if (!existsSync(join(webFolder, 'index.html'))) throw new Refusal(404, 'not-built', 'The pages are not built; start with npm start.');
    ctx.type = 'html';
    ctx.set('Cache-Control', 'no-cache');
    ctx.body = await readFile(join(webFolder, 'index.html'), 'utf8');
  };
}
