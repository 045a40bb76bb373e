// Installs and builds what is missing, then serves the application until it is stopped.
import { spawn } from 'node:child_process';
import { ensureBuild, ensurePackages, root } from './prepare.mjs';

ensurePackages();
await ensureBuild();
const server = spawn(process.execPath, ['dist/server/main.mjs', 'dist/app'], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
