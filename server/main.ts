import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { createApp } from './app';

const port = Number(process.env['PORT'] ?? 4310);
const folder = resolve(process.argv[2] ?? 'dist/app');

if (!Number.isInteger(port) || port < 1 || port > 65_535) fail(`PORT is “${process.env['PORT']}”; it has to be a whole number from 1 to 65535.`);
if (!existsSync(resolve(folder, 'index.html'))) fail(`There is no built application in ${folder}. Run npm start, which builds it.`);

const server = createApp(folder).listen(port, (error?: Error) => {
  if (error) {
    const inUse = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
    fail(inUse ? `Port ${port} is in use. Choose another one, for example: PORT=${port + 1} npm start` : `The server could not start: ${error.message}`);
  }
  console.log(`Chemin is ready: http://localhost:${port}`);
});

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), 2000).unref();
  });
}

function fail(message: string): never {
  console.error(message);
  process.exit(1);
}
