/** Parts of a package that take longer to read than what it declares, and that one can do without: layouts, colours, code. */
import type { AppPackage, PackagePart } from '../model/app-package.ts';
import type { CatalogueSyntax } from '../model/intent-parts.ts';
import { tryRead } from '../model/problem.ts';
import { findColourPairs } from './android/colour-pairs.ts';
import { findClasses } from './android/find-classes.ts';
import { findCodeUse } from './android/find-code-use.ts';
import { findLayoutViews } from './android/layout-views.ts';
import { findThemeColours } from './android/theme-colours.ts';
import { findUnusedResources } from './android/unused-resources.ts';
import { findVariedResources } from './android/varied-resources.ts';
import { namedColoursOf } from './apple/asset-catalogue.ts';
import { findInterfaceViews } from './apple/interface-views.ts';
import { findVariedPictures } from './apple/varied-pictures.ts';
import { findAssetTexts } from './catalogues/asset-texts.ts';
import type { OpenedPackage } from './opened-package.ts';

/** The app with all its parts; one that cannot be read is told among `unread`, and named in `leftOut`. */
export async function readParts(
  { android, app, zip }: OpenedPackage,
  named: readonly CatalogueSyntax[],
): Promise<AppPackage> {
  const unread = [...app.unread];
  const leftOut: PackagePart[] = [...(app.leftOut ?? [])];
  const part = async <T>(name: PackagePart, read: () => T | Promise<T>): Promise<T | undefined> => {
    const found = await tryRead(unread, async () => ({ value: await read() }));
    if (!found) leftOut.push(name);
    return found?.value;
  };
  return {
    ...app,
    ...(android &&
      app.android && {
        android: {
          ...app.android,
          unusedResources: await part('unusedResources', () => findUnusedResources(android)),
          colourPairs: await part('colourPairs', () => findColourPairs(android)),
          classNames: await part('classNames', () => findClasses(android)),
          codeUse: await part('codeUse', () => findCodeUse(android)),
        },
      }),
    namedColours: await part('namedColours', () =>
      android ? findThemeColours(android) : namedColoursOf(app.ios?.assetCatalogues ?? []),
    ),
    layoutViews: await part('layoutViews', () =>
      android ? findLayoutViews(android) : findInterfaceViews(zip, unread),
    ),
    variants: await part('variants', () =>
      android ? findVariedResources(android) : findVariedPictures(app, zip),
    ),
    assetTexts: await part('assetTexts', () => findAssetTexts(zip, named)),
    unread,
    leftOut,
  };
}
