// Serves the application while it is being worked on: rebuilt and reloaded at every change.
import { ensurePackages, guide, run } from './prepare.mjs';

ensurePackages();
await guide();
run('npx', ['--no-install', 'ng', 'serve', '--port', process.env.PORT ?? '4311'], { env: { ...process.env, NG_CLI_ANALYTICS: 'false' } });
