// The lists of all checks and observers, from the files that hold them. Plain text in and out, so that it needs no build.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../setup.mjs';

const folder = join(root, 'src/core/areas');
const HEAD = '// Written by scripts/generate.mjs from the files of each area: npm run generate\n';

/** @returns texts by the names of the files that hold them */
export const checkLists = () => ({
  'src/core/areas/checks.ts': list(
    { type: 'Check', from: './check.ts', name: 'checks', says: 'Every check, area by area.' },
    modulesOf('checks', /^export const (\w+) = defineCheck\(/m),
  ),
  'src/core/areas/observers.ts': list(
    { type: 'Observer', from: './observer.ts', name: 'observers', says: 'Every observer, area by area.' },
    modulesOf('observers', /^export const (\w+) = \{$/m),
  ),
});

/** What the files of one room of each area export, in the order of the areas. */
function modulesOf(room, exported) {
  return areaNames().flatMap((area) => {
    const own = join(folder, area, room);
    if (!existsSync(own)) return [];
    return readdirSync(own)
      .sort()
      .map((file) => {
        const name = exported.exec(readFileSync(join(own, file), 'utf8'))?.[1];
        if (!name) throw new Error(`src/core/areas/${area}/${room}/${file}: no line like ${exported}`);
        return { name, path: `./${area}/${room}/${file}` };
      });
  });
}

function areaNames() {
  const text = readFileSync(join(root, 'src/core/model/checklist.ts'), 'utf8');
  return [...text.slice(0, text.indexOf('] as const')).matchAll(/'([a-z]+)'/g)].map(([, area]) => area);
}

function list({ from, name, says, type }, modules) {
  const imports = modules.map((one) => `import { ${one.name} } from '${one.path}';\n`).join('');
  const names = modules.map((one) => `  ${one.name},\n`).join('');
  return `${HEAD}import type { ${type} } from '${from}';\n${imports}\n/** ${says} */\nexport const ${name}: readonly ${type}[] = [\n${names}];\n`;
}

/** The shipped checklist as the core holds it, which reads no files. */
export function shippedList(parse) {
  const list = parse(readFileSync(join(root, 'checklists/mobile-release.yaml'), 'utf8'));
  return {
    'src/core/checklist/mobile-release.ts': `${HEAD.replace('the files of each area', 'checklists/mobile-release.yaml')}import type { z } from 'zod';\nimport type { checklistSchema } from '../model/checklist.ts';\n\n/** As it is written: defaults are not filled in. */\nexport const mobileRelease: z.input<typeof checklistSchema> = ${JSON.stringify(list, null, 2)};\n`,
  };
}
