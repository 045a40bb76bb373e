import { join } from 'node:path';
import compression from 'compression';
import expressStaticGzip from 'express-static-gzip';
import type { ServerResponse } from 'node:http';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import helmet from 'helmet';

/** The content policy: everything from this server, WebAssembly allowed, nothing inline but styles. */
const CONTENT_POLICY = {
  'default-src': ["'self'"],
  'script-src': ["'self'", "'wasm-unsafe-eval'"],
  'script-src-attr': ["'none'"],
  'style-src': ["'self'", "'unsafe-inline'"],
  'img-src': ["'self'", 'data:', 'blob:'],
  'font-src': ["'self'"],
  'connect-src': ["'self'"],
  'worker-src': ["'self'"],
  'manifest-src': ["'self'"],
  'object-src': ["'none'"],
  'base-uri': ["'self'"],
  'form-action': ["'self'"],
  'frame-ancestors': ["'none'"],
};

/** Names that the build gives to files whose content can never change under that name. */
const HASHED = /-[A-Z0-9]{8}\.(js|css|woff2?|map)(\.gz)?$/;

/** The files of a folder as they are asked for; those that the build has compressed as they are to whoever takes them. */
function staticFiles(folder: string): RequestHandler {
  const setHeaders = (response: ServerResponse, path: string): void =>
    void response.setHeader('Cache-Control', HASHED.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache');
  const serveStatic = { index: false, setHeaders };
  try {
    return expressStaticGzip(folder, { index: false, serveStatic });
  } catch {
    // Looking for what is compressed fails at a link that leads nowhere; what is there can be sent all the same.
    return express.static(folder, serveStatic);
  }
}

/** Whether a path is written as addresses are. */
function isReadable(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
}

/** What went wrong in a plain sentence, never where in the code. Express tells error handlers by their four arguments. */
const plainAnswer: ErrorRequestHandler = (error: { readonly status?: unknown }, _request, response, next) => {
  if (response.headersSent) return next(error);
  const status = typeof error.status === 'number' && error.status >= 400 && error.status < 500 ? error.status : 500;
  response
    .status(status)
    .type('text/plain')
    .send(status < 500 ? 'This address cannot be read.' : 'The server could not answer.');
};

/**
 * The server of the built application. It keeps nothing: documents stay in the browser.
 * @param folder absolute path of the built application
 */
export function createApp(folder: string): Express {
  const app = express();
  app.set('env', 'production');
  app.disable('x-powered-by');
  app.use(helmet({ contentSecurityPolicy: { useDefaults: false, directives: CONTENT_POLICY }, strictTransportSecurity: false }));
  app.use(({ path }, _response, next) => next(isReadable(path) ? undefined : { status: 400 }));
  // What the build has compressed is sent as it is; the rest is compressed as it goes.
  app.use(compression());
  app.use(staticFiles(folder));
  // A path without a file's ending is a view of the page; one with an ending is a file that is not there.
  app.get('/{*path}', (request, response) => {
    if (/\.[a-z0-9]+$/i.test(request.path)) {
      response.status(404).type('text/plain').send('There is no such file.');
      return;
    }
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(join(folder, 'index.html'), (error?: NodeJS.ErrnoException) => {
      if (!error || response.headersSent) return;
      response.status(503).type('text/plain').send('The application has not been built. Run npm start, which builds it.');
    });
  });
  app.use((_request, response) => void response.status(405).type('text/plain').send('Only GET is answered here.'));
  app.use(plainAnswer);
  return app;
}
