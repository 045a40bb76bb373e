// Builds the application and its server into dist/.
import { ensureBuild, ensurePackages } from './prepare.mjs';

ensurePackages();
await ensureBuild();
