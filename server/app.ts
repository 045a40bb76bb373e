import { join } from 'node:path';
import compression from 'compression';
import express, { type Express } from 'express';
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
const HASHED = /-[A-Z0-9]{8}\.(js|css|woff2?|map)$/;

/**
 * The server of the built application. It keeps nothing: documents stay in the browser.
 * @param folder absolute path of the built application
 */
export function createApp(folder: string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(helmet({ contentSecurityPolicy: { useDefaults: false, directives: CONTENT_POLICY }, strictTransportSecurity: false }));
  app.use(compression());
  app.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, path) => {
        response.setHeader('Cache-Control', HASHED.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache');
      },
    }),
  );
  // A path without a file's ending is a view of the page; one with an ending is a file that is not there.
  app.get('/{*path}', (request, response) => {
    if (/\.[a-z0-9]+$/i.test(request.path)) {
      response.status(404).type('text/plain').send('There is no such file.');
      return;
    }
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(join(folder, 'index.html'));
  });
  return app;
}
