/** `fenlok`: the core. Pure functions over plain data; runs in Node and in a browser. */

/** The schemas of a check's data are written with it. */
export { z } from 'zod';

export { type ScannedStop, type ScanPattern, scannedRows, scanStops } from './areas/accessibility/scan.ts';
export { type ScanState, scanNext, scanSelect, scanStart } from './areas/accessibility/scan-player.ts';
export { type NameOrigin, type Stop, type Walk, walkStops } from './areas/accessibility/walk-stops.ts';
export {
  type Assertion,
  type Check,
  type CheckDoc,
  type Draft,
  defineCheck,
  elementDraft,
  type FactIndex,
} from './areas/check.ts';
export { checks } from './areas/checks.ts';
export {
  contrastRatio,
  formatRatio,
  parseHex,
  type Rgb,
  relativeLuminance,
  toHex,
} from './areas/contrast/colour.ts';
export {
  simulateVision,
  type View,
  type Vision,
  viewPicture,
  views,
  visions,
} from './areas/contrast/colour-vision.ts';
export { measurePicture } from './areas/contrast/pixels/measure-picture.ts';
export { measureSpot } from './areas/contrast/pixels/measure-spot.ts';
export { measureText } from './areas/contrast/pixels/measure-text.ts';
export type { PictureSeen } from './areas/contrast/pixels/picture-seen.ts';
export type { TextSeen, TextUnseen } from './areas/contrast/pixels/text-seen.ts';
export { type Suggestion, suggestColour, suggestColours } from './areas/contrast/suggest-colour.ts';
export {
  type Palette,
  type PaletteChange,
  type PalettePair,
  type PaletteSuggestion,
  suggestPalette,
} from './areas/contrast/suggest-palette.ts';
export type {
  CaptureEvidence,
  CatalogueEvidence,
  Observer,
  PackageEvidence,
  TraceEvidence,
} from './areas/observer.ts';
export { observers } from './areas/observers.ts';
export { type Entitlement, entitlementsAt, spansOf } from './areas/purchases/ledger/entitlements.ts';
export { judgeLedger, LedgerJudge } from './areas/purchases/ledger/judge-ledger.ts';
export { type Ledger, readLedger } from './areas/purchases/ledger/ledger.ts';
export type { LedgerFault, LedgerOptions, LedgerReport } from './areas/purchases/ledger/ledger-report.ts';
export { recogniseScenarios, type SeenScenario } from './areas/purchases/ledger/recognise-scenarios.ts';
export { type AssembledChecklist, assembleChecklist } from './checklist/assemble-checklist.ts';
export { factsOfPackage } from './checklist/facts-of-package.ts';
export { type FoundInTrace, factsOfTrace, findInTrace } from './checklist/find-in-trace.ts';
export { factsOfCapture, findOnScreens } from './checklist/find-on-screens.ts';
export { type JudgeInput, judge, verdictOf } from './checklist/judge.ts';
export { type JudgeFactsOptions, judgeFacts } from './checklist/judge-facts.ts';
export { draftIntent, type IntentDraft } from './drafts/intent-draft.ts';
export type { OpenedAndroid } from './formats/android/apk.ts';
export { findColourPairs } from './formats/android/colour-pairs.ts';
export { type Dex, readDex } from './formats/android/dex.ts';
export { readHierarchy } from './formats/android/hierarchy.ts';
export { findUnusedResources } from './formats/android/unused-resources.ts';
export { parseCapture, treeOfCapture } from './formats/capture.ts';
export { isCataloguePath, readCatalogue } from './formats/catalogues/read-catalogue.ts';
export { type CatalogueFile, writeCatalogue } from './formats/catalogues/write-catalogue.ts';
export { type OpenedPackage, readPackage } from './formats/package.ts';
export { readPushPayload } from './formats/push-payload.ts';
export { readSiteFile, siteFilePlace } from './formats/site-file.ts';
export { isSaleText, readSale, type SaleReading } from './formats/store/read-sale.ts';
export { linesOfPurchase, readSignedPurchase, type SignedPurchase } from './formats/store/signed-purchase.ts';
export {
  linesOfTransaction,
  readSignedTransaction,
  type SignatureFault,
  type SignedTransaction,
} from './formats/store/signed-transaction.ts';
export { decodeTrace } from './formats/trace.ts';
export { openZip, type Zip } from './formats/zip.ts';
export type { AppPackage, ColourPair, LinkFilter } from './model/app-package.ts';
export { type Capture, captureSchema } from './model/capture.ts';
export type { Catalogue, CatalogueEntry, TextPart } from './model/catalogue.ts';
export { type Cell, formatCell } from './model/cell.ts';
export { type Checklist, checklistSchema, type Item } from './model/checklist.ts';
export type { Fact, FactKind, FactOf } from './model/fact.ts';
export type { Finding } from './model/finding.ts';
export type { Box } from './model/geometry.ts';
export { emptyIntent, type Intent, intentSchema } from './model/intent.ts';
export { type Judgement, judgementSchema, type OutcomeTable, type TableCell } from './model/judgement.ts';
export { isLedgerLine, type LedgerLine, ledgerLineSchema, type ProductKind } from './model/ledger.ts';
export { isRightToLeft } from './model/locale.ts';
export type { Outcome } from './model/outcome.ts';
export { type ByteSource, bytesSource, type Pixels, type Ports } from './model/ports.ts';
export { formatProblem, type Problem, type Result, UnreadableError } from './model/problem.ts';
export type { PushPayload } from './model/push-payload.ts';
export { type Ruling, type RulingsFile, rulingsFileSchema, type SignOff } from './model/ruling.ts';
export type { Sale, SaleKeys, SaleTrust } from './model/sale.ts';
export type { SiteFile } from './model/site-file.ts';
export { type TraceLine, traceLineSchema } from './model/trace.ts';
export type { UiNode } from './model/ui-tree.ts';
export { parseConfig } from './platform/android/parse-config.ts';
export { formatConfig, type ResourceConfig } from './platform/android/resource-config.ts';
export {
  explainSelection,
  type Fate,
  scaleFactor,
  selectVariant,
  variantPicker,
} from './platform/android/select-variant.ts';
export { type DeviceSettings, type TargetDevice, targetDevice } from './platform/android/target-device.ts';
export { selectLocalization, selectScale } from './platform/apple/select-localization.ts';
export {
  type LinkCandidate,
  type LinkDecision,
  type LinkMatcher,
  linkFiltersOf,
} from './platform/links/link-decision.ts';
export { type LinkUri, parseLinkUri } from './platform/links/link-uri.ts';
export { linkMatcher, matchLink } from './platform/links/match-link.ts';
export { formatPeriod, parsePeriod } from './platform/purchases/period.ts';
export { findTestClock, type TestClock, testClocks } from './platform/purchases/test-clocks.ts';
export { renewalTimetable, type TimetableRow } from './platform/purchases/timetable.ts';
export { type PayloadPreview, previewPayload } from './platform/push/preview-payload.ts';
export { parseText } from './platform/text/parse-text.ts';
export { type PluralNeeds, pluralNeeds } from './platform/text/plural-categories.ts';
export { type PseudoLocale, pseudoLocalize } from './platform/text/pseudo-locale.ts';
export { htmlReport } from './reports/html/page.ts';
export type { Proof } from './reports/html/proof.ts';
export { junitReport } from './reports/junit.ts';
export { rowsWith } from './reports/outcome-table.ts';
export { packageSummary } from './reports/package-summary.ts';
export { nameOrigin } from './reports/stop-table.ts';
export { plainStyle, textReport } from './reports/text.ts';
