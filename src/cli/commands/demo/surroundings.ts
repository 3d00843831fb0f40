/** What Kelpline is surrounded by in the demo: its files, its sites, its sales, and stand-ins as processes of their own. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import type { IosCommands } from '../../../core/model/intent-parts.ts';
import type { Dossier } from '../../../node/dossier.ts';
import { addListing } from '../../../node/listings.ts';
import { ownFile } from '../../../node/own-files.ts';
import { addReviews } from '../../../node/reviews.ts';
import { addSale, readSaleKeys } from '../../../node/sales.ts';
import { addSiteFile } from '../../../node/site-files.ts';
import { addSymbols } from '../../../node/symbols.ts';

export const ANDROID_PACKAGE = 'kelpline.apk';
export const IOS_PACKAGE = 'kelpline.ipa';
export const IOS_SHAPE = 'older-phone';
export const PUSH_FILES = ['delay', 'offer', 'sync', 'fares', 'delay-ios', 'offer-ios', 'sync-ios'].map(
  (name) => `push/${name}.json`,
);
export const SALE_FILES = ['year.json', 'crossings.json', 'license-key.txt'].map((name) => `sales/${name}`);
export const NETWORK_FILES = ['brightbuoy', 'northmast', 'ropewalk'].map((id) => `networks/${id}.yaml`);
export const DATA = ownFile('demo/kelpline');

/** What Kelpline's two sites serve about the app, as a client saved it with the heads of the responses. */
export async function addSites(dossier: Dossier): Promise<void> {
  await addSiteFile(dossier, join(DATA, 'site', 'kelpline.example', 'app-ads.txt'));
  for (const host of ['kelpline.example', 'www.kelpline.example'])
    for (const name of ['assetlinks.json', 'apple-app-site-association'])
      await addSiteFile(dossier, join(DATA, 'site', host, '.well-known', name));
}

/** What users wrote of it in the store. */
export const addKelplineReviews = (dossier: Dossier) => addReviews(dossier, join(DATA, 'reviews.csv'));

/** What its shrinker renamed. */
export const addMapping = (dossier: Dossier) => addSymbols(dossier, join(DATA, 'mapping.txt'));

/** What Google Play shows of it, in four of its five languages. */
export async function addListings(dossier: Dossier): Promise<void> {
  for (const locale of ['en', 'de', 'nb', 'ar'])
    await addListing(dossier, join(DATA, 'listing', `google-play-${locale}.yaml`));
}

export const bootPhone = (surroundings: readonly string[], apk = join(DATA, ANDROID_PACKAGE)) =>
  bootStandin([
    'phone',
    ...['--package', apk, '--channel', 'private-share', '--sites', join(DATA, 'site')],
    ...surroundings,
    '--json',
  ]);

/** What does with the stand-in iOS phone what a team's own tools do with a real one. */
export function standinTools(stateFolder: string): IosCommands {
  const tool = (...words: string[]) => [
    ...['env', `FENLOK_STATE=${stateFolder}`, process.execPath, ownFile('dist/bin/fenlok.js')],
    ...['standin', 'tool', '{address}', ...words],
  ];
  return {
    install: tool('install', '{package}'),
    uninstall: tool('uninstall', '{app}'),
    networkOff: tool('network-off'),
    networkOn: tool('network-on'),
    isOnline: tool('is-online'),
  };
}

/** @param stateFolder where it says where it is */
export const bootIosPhone = (stateFolder: string, surroundings: readonly string[]) =>
  bootStandin(
    [
      'phone',
      ...['--platform', 'ios', '--shape', IOS_SHAPE, '--sites', join(DATA, 'site')],
      ...['--package', join(DATA, IOS_PACKAGE), ...surroundings],
      '--json',
    ],
    { FENLOK_STATE: stateFolder },
  );

interface Standin {
  address: string;
  /** Of an iOS phone. */
  token: string;
  stop(): void;
}

/** A stand-in as its own process, so that phones paint while this one measures. */
export async function bootStandin(
  of: readonly string[],
  environment: Readonly<Record<string, string>> = {},
): Promise<Standin> {
  const bin = ownFile('dist/bin/fenlok.js');
  const child = spawn(process.execPath, [bin, 'standin', ...of], {
    env: { ...process.env, ...environment },
    // the channel closes when this process ends, however it does: then the stand-in ends, too
    stdio: ['ignore', 'pipe', 'ignore', 'ipc'],
  });
  const { address, token } = await new Promise<{ address: string; token: string }>((resolve, reject) => {
    child.stdout!.once('data', (line: Buffer) => {
      const said = JSON.parse(line.toString()) as Record<string, string | undefined>;
      resolve({
        address: said.address ?? said.devices ?? said.store ?? said.ads ?? '',
        token: said.token ?? '',
      });
    });
    child.once('exit', (code) => reject(new Error(`the stand-in ${of[0]} did not boot (exit code ${code})`)));
  });
  return { address, token, stop: () => child.kill('SIGINT') };
}

/** Two sales as the store signed them. */
export async function addSales(dossier: Dossier, out: string): Promise<void> {
  const keys = await readSaleKeys(undefined, join(out, 'sales/license-key.txt'));
  for (const name of SALE_FILES.filter((one) => one.endsWith('.json')))
    await addSale(dossier, join(out, name), keys);
}
