import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import compression from 'compression';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import helmet from 'helmet';

export interface AppOptions {
  /** Folder of the built app. */
  folder: string;
  /** Puts the demo on the shelf of a browser that comes here for the first time. */
  demo: boolean;
}

/** A year, for files whose names carry a hash of their content. */
const FOREVER = 'public, max-age=31536000, immutable';

/**
 * Serves the built app and nothing else: with the headers that isolate it (COOP, COEP, CSP), compressed, hashed files
 * cached for long, every other address answered by the app's page, and /health. Throws when there is no build.
 */
export function createApp({ folder, demo }: AppOptions): Express {
  const indexFile = path.join(folder, 'index.html');
  if (!existsSync(indexFile))
    throw new Error(`There is no built app in ${folder}. Run "npm run build" first.`);
  // Read anew each time: a build made while the server runs has other file names in its page.
  const page = () => {
    const html = readFileSync(indexFile, 'utf8');
    return demo ? html.replace('</head>', '<meta name="ordle-demo" content="on" /></head>') : html;
  };

  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'", 'data:'],
          workerSrc: ["'self'", 'blob:'],
          connectSrc: ["'self'"],
          objectSrc: ["'none'"],
          baseUri: ["'self'"],
          frameAncestors: ["'self'"],
        },
      },
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      // The server speaks plain HTTP on the person's own machine.
      strictTransportSecurity: false,
    }),
  );
  app.use(refuseBadAddresses);
  app.use(compression());
  app.get('/health', (_request, response) => {
    response.json({ ok: true });
  });
  // Kept by the browser for when there is no server: the same page as at every other address.
  app.get('/index.html', (_request, response) => {
    response.setHeader('Cache-Control', 'no-cache');
    response.type('html').send(page());
  });
  app.use(
    express.static(folder, {
      index: false,
      setHeaders(response, file) {
        response.setHeader(
          'Cache-Control',
          file.includes(`${path.sep}assets${path.sep}`) ? FOREVER : 'no-cache',
        );
      },
    }),
  );
  app.get('/{*splat}', (request, response) => {
    // A missing file is missing; only addresses of places get the page.
    if (path.extname(request.path) !== '') {
      response.status(404).type('text/plain').send('There is no such file.');
      return;
    }
    response.setHeader('Cache-Control', 'no-cache');
    response.type('html').send(page());
  });
  app.use(refuseFaults);
  return app;
}

/** An address that cannot be decoded names nothing. */
const refuseBadAddresses: RequestHandler = (request, response, next) => {
  try {
    decodeURIComponent(request.path);
    next();
  } catch {
    response.status(400).type('text/plain').send('This address is not well formed.');
  }
};

/** Whatever else goes wrong is told without a stack trace: it would show where the server lies. */
const refuseFaults: ErrorRequestHandler = (error: { status?: number }, _request, response, next) => {
  if (response.headersSent) return next(error);
  const isBadRequest = typeof error.status === 'number' && error.status >= 400 && error.status < 500;
  response
    .status(isBadRequest ? (error.status ?? 400) : 500)
    .type('text/plain')
    .send(isBadRequest ? 'This request is not well formed.' : 'The server could not answer.');
};
