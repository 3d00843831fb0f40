/**
 * What a bundle says of itself: how the store cuts it up (`BundleConfig.pb`, bundletool `config.proto`), and when each module is
 * delivered (Android developers, *Overview of Play Feature Delivery*, `<dist:module>`).
 */
import type { ModuleLook } from '../../model/app-package.ts';
import { attributeOf, type XmlElement } from './binary-xml.ts';
import { readRoot } from './proto/message.ts';

// `SplitDimension.Value`
const LANGUAGE = 3;

interface Split {
  dimension: number;
  isOff: boolean;
}

/** @returns whether the store delivers the languages of the device's settings alone: it does, unless that is switched off */
export function splitsByLanguage(bytes: Uint8Array, what: string): boolean {
  const splits: Split[] = [];
  // BundleConfig.optimizations (2) · Optimizations.splits_config (1) · SplitsConfig.split_dimension (1)
  readRoot(
    bytes,
    what,
    (field, _, pbf) => {
      if (field !== 2) return;
      pbf.readMessage((of) => {
        if (of !== 1) return;
        pbf.readMessage((inner) => {
          if (inner !== 1) return;
          splits.push(
            pbf.readMessage<Split>(
              (part, split) => {
                if (part === 1) split.dimension = pbf.readVarint();
                else if (part === 2) split.isOff = pbf.readBoolean();
              },
              { dimension: 0, isOff: false },
            ),
          );
        }, {});
      }, {});
    },
    {},
  );
  const language = splits.find(({ dimension }) => dimension === LANGUAGE);
  return language ? !language.isOff : true;
}

/** Of a module's manifest; the base is there from the beginning. */
export function readDelivery(name: string, manifest: XmlElement): ModuleLook {
  const module = manifest.children.find((child) => child.name === 'module');
  const delivery = module?.children.find((child) => child.name === 'delivery');
  const has = (kind: string) => delivery?.children.some((child) => child.name === kind) ?? false;
  const isSo = (element: XmlElement | undefined, attribute: string) => {
    const found = element && attributeOf(element, attribute);
    return found?.raw === 'true' || (found?.value.kind === 'boolean' && found.value.value);
  };
  const installTime = delivery?.children.find((child) => child.name === 'install-time');
  const hasConditions = installTime?.children.some((child) => child.name === 'conditions') ?? false;
  // before there was `<dist:delivery>`, an attribute said it
  const isLate = has('on-demand') || has('fast-follow') || isSo(module, 'onDemand');
  return {
    name,
    delivery:
      name === 'base'
        ? 'base'
        : installTime && !hasConditions
          ? 'install-time'
          : hasConditions
            ? 'conditional'
            : has('fast-follow')
              ? 'fast-follow'
              : isLate
                ? 'on-demand'
                : 'install-time',
  };
}
