// Measures the hot paths and prints a table and JSON. Ratios are within one run; single times vary with the machine.
import { bundle, ensureBuild, ensurePackages, run } from './prepare.mjs';

ensurePackages();
await ensureBuild();
bundle('bench/main.ts', 'dist/bench/main.mjs');
run(process.execPath, ['dist/bench/main.mjs']);
