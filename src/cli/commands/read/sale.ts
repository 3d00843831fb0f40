import { compareSale } from '../../../core/areas/purchases/compare-sale.ts';
import { printable } from '../../../core/reports/escape.ts';
import { saleView } from '../../../core/reports/sale-view.ts';
import { readYaml } from '../../../node/read-yaml.ts';
import { readSaleFile, readSaleKeys } from '../../../node/sales.ts';
import { type ExitCode, exitCode } from '../../exit-code.ts';
import type { Io } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { inCwd } from '../options.ts';

export interface SaleOptions {
  store?: string;
  licenseKey?: string;
  catalogue?: string;
  json?: boolean;
}

/** `fenlok read` of a signed transaction or purchase. @returns blocked where it does not hold */
export async function readSaleCommand(file: string, options: SaleOptions, io: Io): Promise<ExitCode> {
  const { catalogue, json, licenseKey, store } = options;
  const at = (path: string | undefined) => (path === undefined ? undefined : inCwd(io, path));
  const keys = await readSaleKeys(at(store), at(licenseKey));
  const sale = await readSaleFile(inCwd(io, file), keys);
  const differences = catalogue === undefined ? undefined : await differencesOf(sale, inCwd(io, catalogue));
  io.out(
    json
      ? `${JSON.stringify({ ...sale, differences }, null, 2)}\n`
      : saleView(printable({ file, sale, differences }), { style: styleFor(io), widthColumns: io.columns }),
  );
  const isWrong = sale.trust.is === 'refused' || (differences?.length ?? 0) > 0;
  return isWrong ? exitCode.blocked : exitCode.done;
}

async function differencesOf(sale: Parameters<typeof compareSale>[0], file: string) {
  const { storeCatalogueSchema } = await import('../../../standins/store/catalogue.ts');
  const { default: countries } = await import('i18n-iso-countries/index.js');
  const { products } = (await readYaml(file, storeCatalogueSchema)).value;
  return compareSale(sale, products, sale.storefront && countries.alpha3ToAlpha2(sale.storefront));
}
