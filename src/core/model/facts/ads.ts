/** Facts of ads: what of a package networks look for, and what a site says of who may sell. */
import type { OfCapture, OfPackage, StateChange } from './base.ts';

/** All of a package that an ad network may need. */
export interface AdSurroundingsFact extends OfPackage {
  kind: 'ad-surroundings';
  /** Classes of its own code (Android); classes that it refers to, and its frameworks (iOS). */
  classes: string[];
  permissions: string[];
  /** Full names of its activities, services, receivers and providers. */
  components: string[];
  /** `<meta-data>` of the application, or texts of Info.plist. */
  values: Record<string, string>;
  /** Of `SKAdNetworkItems`, lower case. */
  skAdNetworkIds: string[];
}

/** `app-ads.txt` of one site. */
export interface AppAdsFact extends OfPackage {
  kind: 'app-ads';
  host: string;
  sellers: { domain: string; account: string; relation: 'DIRECT' | 'RESELLER'; line: number }[];
  /** Lines that cannot be read. */
  faults: { line: string; found: string; expected: string }[];
}

/** One request of a placement to a network, and what came of it. */
export interface AdLoadFact extends OfCapture {
  kind: 'ad-load';
  at: string;
  deviceId: string;
  placement: string;
  network: string;
  outcome: 'loaded' | 'no-fill' | 'failed' | 'pending';
  /** What the app says of a failure. */
  reason: string;
  /** Whether a test ad was asked for, where the app says. */
  isTest?: boolean;
  /** Before the request. */
  isInitialised: boolean;
  consent: 'given' | 'refused' | 'asked' | 'none';
  /** Undefined where nobody says whose device it is. */
  isDevelopment?: boolean;
  /** Undefined where nobody knows the advertising id of the device. */
  isRegistered?: boolean;
  /** Lines of the device's log from the request until its end. */
  log: { tag: string; message: string }[];
}

/** One ad that was shown, and where its user came back to. */
export interface AdShowFact extends OfCapture {
  kind: 'ad-show';
  at: string;
  deviceId: string;
  placement: string;
  network: string;
  /** Products that the app gave its user then. */
  held: string[];
  isClosed: boolean;
  /** In front before it came, and after it was closed; empty where nobody looked. */
  before: string;
  after: string;
  /** What of the screen's state was not as before. */
  lost: StateChange[];
}

/** A trace that reports ads: what the app gave its user in the course of it, and what the networks saw. */
export interface AdSessionFact extends OfCapture {
  kind: 'ad-session';
  at: string;
  deviceId: string;
  /** Products that it gave at one time or another. */
  held: string[];
  /** Undefined where nobody says whose device it is. */
  isDevelopment?: boolean;
  /** Requests as the networks saw them, each sort once. */
  asked: { network: string; test: boolean; isRegistered?: boolean }[];
}
