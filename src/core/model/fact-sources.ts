/** Where facts of each kind come from: what is said of an item while there are none, and what makes some of them invisible. */
import type { PackagePart } from './app-package.ts';
import type { FactKind } from './fact.ts';

interface FactSource {
  /** Why there are none, with what would bring them. */
  missing: string;
  /** A drill writes them, and they are told run by run: links, messages, purchases, ads. */
  isRun?: true;
  /** They are measured in a picture, so that one of another moment tells nothing. */
  isPictured?: true;
  /** Parts of a package that they are found in, by the places that readers name: while one cannot be read, none found proves nothing. */
  foundIn?: RegExp;
  /** The part of a package that they are read from, where it may have been left out. */
  part?: PackagePart;
}

const TABLES = /\bresources\.(arsc|pb)\b|resource table|^resource |\.strings(dict)?\b/;
const orTables = (others: string): RegExp => new RegExp(`${TABLES.source}|${others}`);

const ofPackage = (foundIn?: RegExp, part?: PackagePart): FactSource => ({
  missing: 'No package has been added.',
  ...(foundIn && { foundIn }),
  ...(part && { part }),
});
const ofCapture: FactSource = { missing: 'No capture has been added.' };
const ofPicture: FactSource = { ...ofCapture, isPictured: true };
const ofDrill = (drill: string): FactSource => ({
  missing: `Not run yet: fenlok drill ${drill}`,
  isRun: true,
});

export const factSources: Readonly<Record<FactKind, FactSource>> = {
  capture: ofCapture,
  'text-contrast': ofPicture,
  'icon-contrast': ofPicture,
  'screen-text': ofCapture,
  place: ofCapture,
  side: ofCapture,
  stop: ofCapture,
  'unseen-focus': ofCapture,
  target: ofCapture,
  picture: ofPicture,
  'light-area': ofPicture,
  'field-edge': ofPicture,
  package: ofPackage(),
  'unread-part': ofPackage(),
  signing: ofPackage(),
  backup: ofPackage(),
  cleartext: ofPackage(),
  component: ofPackage(),
  entitlement: ofPackage(),
  manifest: ofPackage(),
  'usage-description': ofPackage(),
  'link-filter': ofPackage(),
  'link-domains': ofPackage(),
  'push-setup': ofPackage(),
  'ad-surroundings': ofPackage(/\.dex\b/, 'classNames'),
  shortcut: ofPackage(/\.xml\b/),
  'required-reason': ofPackage(/\.(framework|appex|app|dylib|xcprivacy)\b/),
  'build-ids': ofPackage(),
  'export-key': ofPackage(),
  'platform-calls': ofPackage(/\.dex\b/, 'codeUse'),
  'layout-view': ofPackage(orTables('\\.(xml|nib)\\b'), 'layoutViews'),
  'named-colour': ofPackage(orTables('\\.car\\b'), 'namedColours'),
  'native-library': ofPackage(/\.so\b/),
  'unused-resource': ofPackage(/./, 'unusedResources'),
  'colour-pair': ofPackage(orTables('\\.xml\\b'), 'colourPairs'),
  'varied-resource': ofPackage(TABLES, 'variants'),
  'catalogue-text': ofPackage(TABLES, 'texts'),
  'site-file': { missing: 'Nobody has added what the site serves: fenlok add HOST/.well-known/FILE' },
  payload: { missing: 'No message of push.messages has been added.' },
  listing: { missing: 'No listing has been added: fenlok add listing/' },
  'device-log': { missing: 'No log has been added: fenlok add logcat.txt' },
  trouble: { missing: 'No log has been added: fenlok add logcat.txt' },
  symbols: { missing: 'Neither a mapping file nor a dSYM has been added: fenlok add mapping.txt' },
  reviews: { missing: 'No reviews have been added: fenlok add reviews.csv' },
  'signed-sale': { missing: 'Nobody has added a sale that the store signed: fenlok add FILE' },
  'app-ads': {
    missing: 'Nobody has added what the site serves at /app-ads.txt: fenlok add HOST/app-ads.txt',
  },
  'drill-run': { missing: 'Not run yet: fenlok drill' },
  'borrowed-setting': { missing: 'No drill has been run that changes a setting: fenlok drill' },
  'link-run': ofDrill('links'),
  'push-permission': ofDrill('push'),
  'push-token': ofDrill('push'),
  'push-run': ofDrill('push'),
  'push-channels': ofDrill('push'),
  'store-listing': ofDrill('purchases'),
  'store-offer': ofDrill('purchases'),
  'purchase-history': ofDrill('purchases'),
  'rating-round': ofDrill('ratings'),
  'ad-load': ofDrill('ads'),
  'ad-show': { missing: 'No ad was shown: fenlok drill ads', isRun: true },
  'ad-session': ofDrill('ads'),
};

export const factKinds = Object.keys(factSources) as FactKind[];
