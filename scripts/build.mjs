import { build, installNpmPackages } from './setup.mjs';

installNpmPackages();
await build();
