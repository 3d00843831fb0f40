// After `npm install` from a registry that serves native builds for this platform alone: adds the other
// platforms' optional packages to package-lock.json, so that `npm ci` accepts the file everywhere.
import { readFileSync, writeFileSync } from 'node:fs';

const OS = [
  'android',
  'darwin',
  'freebsd',
  'linux',
  'openharmony',
  'win32',
  'aix',
  'sunos',
  'netbsd',
  'openbsd',
];
const CPU = ['arm64', 'arm', 'x64', 'ia32', 'ppc64', 'riscv64', 's390x', 'loong64', 'wasm32', 'universal'];
const file = new URL('../package-lock.json', import.meta.url);
const lock = JSON.parse(readFileSync(file, 'utf8'));
let added = 0;

for (const entry of Object.values(lock.packages))
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    const path = `node_modules/${name}`;
    if (lock.packages[path] || !/^\d/.test(version)) continue;
    const words = name.split(/[-/@]/);
    const os = OS.find(
      (known) =>
        words.includes(known) ||
        words.includes(`${known}musl`) ||
        (known === 'linux' && words.includes('linuxmusl')),
    );
    const cpu = CPU.find((known) => words.includes(known));
    lock.packages[path] = {
      version,
      ...(cpu && cpu !== 'universal' ? { cpu: [cpu] } : {}),
      ...(entry.dev ? { dev: true } : {}),
      optional: true,
      ...(os ? { os: [os] } : {}),
      ...(name.includes('musl') ? { libc: ['musl'] } : {}),
    };
    added += 1;
  }

lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
console.error(`package-lock.json: ${added} optional packages of other platforms added`);
