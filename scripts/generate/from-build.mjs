// What is written from the built library: JSON Schemas of the model, the pages of checks.
import { z } from 'zod';
import { checks } from '../../dist/core/areas/checks.js';
import { adNetworkSchema } from '../../dist/core/model/ad-network.js';
import { captureSchema } from '../../dist/core/model/capture.js';
import { checklistSchema } from '../../dist/core/model/checklist.js';
import { comparisonSchema } from '../../dist/core/model/comparison.js';
import { intentSchema } from '../../dist/core/model/intent.js';
import { judgementSchema } from '../../dist/core/model/judgement.js';
import { listingSchema } from '../../dist/core/model/listing.js';
import { rulingsFileSchema } from '../../dist/core/model/ruling.js';
import { traceLineSchema } from '../../dist/core/model/trace.js';
import { checkIndex, checkPage } from '../../dist/core/reports/check-pages.js';
import { storeCatalogueSchema } from '../../dist/standins/store/catalogue.js';

// What people write is described as they may write it, what Fenlok writes as it comes out.
const SCHEMAS = {
  intent: [intentSchema, 'input'],
  capture: [captureSchema, 'input'],
  'trace-line': [traceLineSchema, 'input'],
  checklist: [checklistSchema, 'input'],
  listing: [listingSchema, 'input'],
  rulings: [rulingsFileSchema, 'input'],
  'ad-network': [adNetworkSchema, 'input'],
  'store-catalogue': [storeCatalogueSchema, 'input'],
  comparison: [comparisonSchema, 'output'],
  judgement: [judgementSchema, 'output'],
  /** What `data` holds in the findings of each check. */
  'finding-data': [
    z.object(Object.fromEntries(checks.map(({ data, id }) => [id, data.optional()]))),
    'output',
  ],
};

/** @returns texts by the names of the files that hold them */
export const schemas = () =>
  Object.fromEntries(
    Object.entries(SCHEMAS).map(([name, [schema, io]]) => [
      `docs/schemas/${name}.json`,
      `${JSON.stringify({ title: `Fenlok ${name}`, ...z.toJSONSchema(schema, { io, unrepresentable: 'any' }) }, null, 2)}\n`,
    ]),
  );

/** @returns texts by the names of the files that hold them */
export const checkPages = () => ({
  'docs/checks/README.md': checkIndex(checks),
  ...Object.fromEntries(checks.map((check) => [`docs/checks/${check.id}.md`, checkPage(check)])),
});
