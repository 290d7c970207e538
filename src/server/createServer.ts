import compression from 'compression';
import express, { type Express } from 'express';
import helmet from 'helmet';
import { join } from 'node:path';

/** OpenCV builds functions out of text. Only the worker that it runs in may, which sees nothing but pictures. */
const VISION_WORKER = /^\/assets\/stitch\.worker-[\w-]+\.js$/;

/** Serves the built application: isolated from other origins, under a strict content security policy, no listings. */
export function createServer(distFolder: string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      hsts: false,
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          // Emotion writes style elements at run time.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'blob:', 'data:'],
          connectSrc: ["'self'", 'blob:'],
          workerSrc: ["'self'"],
          fontSrc: ["'self'"],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      crossOriginResourcePolicy: { policy: 'same-origin' },
    }),
  );
  app.use(compression());
  app.use((request, response, next) => {
    if (VISION_WORKER.test(request.path)) {
      response.setHeader(
        'Content-Security-Policy',
        "default-src 'self'; script-src 'self' 'unsafe-eval'; connect-src 'self' blob: data:",
      );
    }
    next();
  });
  app.use(
    '/assets',
    express.static(join(distFolder, 'assets'), { immutable: true, maxAge: '1y', index: false, redirect: false }),
  );
  app.use(express.static(distFolder, { index: false, redirect: false }));
  app.get('/{*path}', (request, response) => {
    // An address with an ending is a file that is not there; anything else is a view of the application.
    if (/\.[a-z0-9]+$/i.test(request.path)) response.status(404).type('text').send('Not found');
    else response.sendFile(join(distFolder, 'index.html'));
  });
  return app;
}
