import { type Assertion, type Check, factsFor, indexFacts } from '../../src/core/areas/check.ts';
import type { CaptureEvidence, PackageEvidence } from '../../src/core/areas/observer.ts';
import { observers } from '../../src/core/areas/observers.ts';
import type {
  AndroidPart,
  Application,
  AppPackage,
  Component,
  IosPart,
  Manifest,
  ProvisioningProfile,
} from '../../src/core/model/app-package.ts';
import type { Cell } from '../../src/core/model/cell.ts';
import type { Fact } from '../../src/core/model/fact.ts';
import type { Box } from '../../src/core/model/geometry.ts';
import { type Intent, intentSchema } from '../../src/core/model/intent.ts';
import type { Pixels } from '../../src/core/model/ports.ts';
import { type UiNode, uiNodeSchema } from '../../src/core/model/ui-tree.ts';

export const aCell: Cell = {
  screen: 'home',
  procedure: 'as-is',
  step: '',
  device: 'd',
  locale: 'en',
  theme: 'light',
  textScale: 1,
  orientation: 'portrait',
};

export const aBuild = { appId: 'example.app', version: '1.0', build: '7', code: 'c0de' };

export const anIntent = (of: Partial<Intent> = {}): Intent => ({
  ...intentSchema.parse({ fenlok: 'intent/1', app: { id: aBuild.appId } }),
  ...of,
});

/** A node with defaults; bounds as `[x, y, width, height]` in pixels. */
export const ui = (
  bounds: [number, number, number, number],
  of: Partial<UiNode> = {},
  ...children: UiNode[]
): UiNode => uiNodeSchema.parse({ ...of, bounds: box(bounds), children });

export const box = ([x, y, width, height]: [number, number, number, number]): Box => ({
  x,
  y,
  width,
  height,
});

/** A picture of one colour, on which a test can paint. */
export function canvas(
  widthPx: number,
  heightPx: number,
  rgb: readonly [number, number, number],
): Pixels & { fill(of: Box, rgb: readonly [number, number, number]): void } {
  const data = new Uint8Array(widthPx * heightPx * 4);
  const fill = (of: Box, [r, g, b]: readonly [number, number, number]) => {
    for (let y = of.y; y < of.y + of.height; y++)
      for (let x = of.x; x < of.x + of.width; x++) data.set([r, g, b, 255], (y * widthPx + x) * 4);
  };
  fill({ x: 0, y: 0, width: widthPx, height: heightPx }, rgb);
  return { widthPx, heightPx, data, fill };
}

interface ScreenOptions {
  pixels?: Pixels;
  cell?: Partial<Cell>;
  platform?: 'android' | 'ios';
  densityDpi?: number;
  carries?: CaptureEvidence['capture']['carries'];
}

/** A capture of 160 dpi, where a pixel is a dp; white where no picture is given. */
export function screenEvidence(tree: UiNode, of: ScreenOptions = {}): CaptureEvidence {
  const cell = { ...aCell, ...of.cell };
  return {
    digest: `${cell.screen}-${cell.theme}-${cell.locale}`,
    capture: {
      fenlok: 'capture/1',
      platform: of.platform ?? 'android',
      cell,
      densityDpi: of.densityDpi ?? 160,
      picture: 'x.png',
      tree,
      carries: of.carries ?? [],
    },
    buildBasis: 'seen',
    tree,
    pixels: of.pixels ?? canvas(tree.bounds.width, tree.bounds.height, [255, 255, 255]),
  };
}

interface AppOptions extends Partial<Omit<AppPackage, 'android' | 'ios'>> {
  components?: Component[];
  targetSdk?: number;
  minSdk?: number;
  application?: Partial<Application>;
  manifest?: Partial<Manifest>;
  android?: Partial<AndroidPart>;
  ios?: Partial<IosPart>;
}

/** A plain Android app of one build, or an iOS app where `ios` is given. */
export const appEvidence = (options: AppOptions): PackageEvidence => {
  const {
    android,
    application,
    components = [],
    ios,
    manifest,
    minSdk = 26,
    targetSdk = 35,
    ...of
  } = options;
  return {
    digest: 'package',
    app: {
      platform: ios ? 'ios' : 'android',
      container: ios ? 'ipa' : 'apk',
      digest: 'package',
      build: aBuild,
      name: 'App',
      permissions: [],
      oddities: [],
      madeWith: [],
      texts: [],
      locales: [],
      files: [],
      pictures: [],
      signing: { schemes: [], certificates: [] },
      traces: { push: [], billing: [], ads: [] },
      unread: [],
      ...of,
      ...(ios
        ? { ios: { ...plainIos, ...ios } }
        : {
            android: {
              ...plainAndroid({ components, targetSdk, minSdk, ...manifest }, application),
              ...android,
            },
          }),
    },
  };
};

const plainAndroid = (
  { components = [], ...manifest }: Partial<Manifest>,
  application: Partial<Application> = {},
): AndroidPart => ({
  manifest: {
    permissions: [],
    declaredPermissions: [],
    queries: { packages: [], actions: [], authorities: [] },
    libraries: [],
    screens: { refused: [] },
    features: [],
    metaData: [],
    components,
    application: {
      className: '',
      debuggable: false,
      testOnly: false,
      allowBackup: true,
      backupAgent: '',
      fullBackupContent: '',
      dataExtractionRules: '',
      networkSecurityConfig: '',
      localeConfig: '',
      supportsRtl: true,
      icon: '',
      roundIcon: '',
      ...application,
    },
    ...manifest,
  },
  modules: [{ name: 'base', delivery: 'base' }],
  backup: {},
  shortcuts: [],
  code: { dexFiles: 1, classes: 1, methods: 1 },
  nativeLibraries: [],
});

/** For the store, of a team that signs with the certificate `aa`. */
export const aProfile: ProvisioningProfile = {
  name: 'Team store',
  uuid: '',
  teamIds: [],
  createdAt: '',
  expiresAt: '',
  kind: 'store',
  deviceCount: 0,
  entitlements: {},
  certificateDigests: ['aa'],
  signed: true,
};

const plainIos: IosPart = {
  info: {},
  minimumOs: '16.0',
  urlSchemes: [],
  backgroundModes: [],
  associatedDomains: [],
  usageDescriptions: [],
  executable: { name: 'App', slices: [] },
  entitlements: {},
  team: '',
  privacyManifests: [],
  reasons: [],
  parts: [],
  assetCatalogues: [],
  storyboards: [],
};

/** What all observers of captures measure in one. */
export function observeScreen(tree: UiNode, of?: ScreenOptions): Fact[] {
  const evidence = screenEvidence(tree, of);
  return observers.flatMap((observer) =>
    observer.reads === 'capture' ? [...observer.observe(evidence)] : [],
  );
}

/** What all observers of packages measure in one. */
export function observeApp(of: AppOptions): Fact[] {
  const evidence = appEvidence(of);
  return observers.flatMap((observer) =>
    observer.reads === 'package' ? [...observer.observe(evidence)] : [],
  );
}

/** As it is judged; and what it tells is what its schema says, on a basis that it declares. */
export function run(check: Check, facts: Fact[], intent = anIntent()): Assertion[] {
  const assertions = [...check.run(factsFor(check, indexFacts(facts)), intent)];
  for (const assertion of assertions)
    if ('draft' in assertion) {
      const { basis, occurrence } = assertion.draft;
      check.data.parse(occurrence.data);
      if (check.basis !== 'either' && basis !== check.basis)
        throw new Error(`${check.id} is ${check.basis}, and calls something ${basis}`);
    }
  return assertions;
}

/** `outcome subject` of each assertion that is neither passed nor inapplicable. */
export const departures = (assertions: Assertion[]): string[] =>
  assertions.flatMap((assertion) =>
    'draft' in assertion
      ? [
          `${assertion.outcome} ${assertion.draft.identity.subject}${assertion.draft.identity.aspect ? ` ${assertion.draft.identity.aspect}` : ''}`,
        ]
      : [],
  );
