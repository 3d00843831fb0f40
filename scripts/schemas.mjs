// Writes the JSON Schemas of docs/schemas from the model; with --check, fails where they are out of date.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { adNetworkSchema } from '../dist/core/model/ad-network.js';
import { captureSchema } from '../dist/core/model/capture.js';
import { checklistSchema } from '../dist/core/model/checklist.js';
import { intentSchema } from '../dist/core/model/intent.js';
import { judgementSchema } from '../dist/core/model/judgement.js';
import { rulingsFileSchema } from '../dist/core/model/ruling.js';
import { traceLineSchema } from '../dist/core/model/trace.js';
import { storeCatalogueSchema } from '../dist/standins/store/catalogue.js';
import { root } from './setup.mjs';

// What people write is described as they may write it, what Fenlok writes as it comes out.
const SCHEMAS = {
  intent: [intentSchema, 'input'],
  capture: [captureSchema, 'input'],
  'trace-line': [traceLineSchema, 'input'],
  checklist: [checklistSchema, 'input'],
  rulings: [rulingsFileSchema, 'input'],
  'ad-network': [adNetworkSchema, 'input'],
  'store-catalogue': [storeCatalogueSchema, 'input'],
  judgement: [judgementSchema, 'output'],
};

const folder = join(root, 'docs/schemas');
const check = process.argv.includes('--check');
let stale = 0;
mkdirSync(folder, { recursive: true });
for (const [name, [schema, io]] of Object.entries(SCHEMAS)) {
  const text = `${JSON.stringify({ title: `Fenlok ${name}`, ...z.toJSONSchema(schema, { io, unrepresentable: 'any' }) }, null, 2)}\n`;
  const file = join(folder, `${name}.json`);
  if (!check) writeFileSync(file, text);
  else if (readFileSync(file, 'utf8') !== text) {
    console.error(`docs/schemas/${name}.json is out of date: run "npm run schemas"`);
    stale += 1;
  }
}
process.exit(stale > 0 ? 1 : 0);
