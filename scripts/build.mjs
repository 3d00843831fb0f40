import { build, installNpmPackages } from './setup.mjs';

installNpmPackages();
build();
