// Measures the page under load in Chromium and prints it; ratios are within one run.
import { ensureBuild, ensurePackages, run } from './prepare.mjs';

ensurePackages();
await ensureBuild();
run('npx', ['playwright', 'test', '-c', 'bench/page.config.ts', '--reporter=line']);
