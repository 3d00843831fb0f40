/** HTML that escapes every value, unless the value is markup itself. */
import { sha256 } from '@noble/hashes/sha2.js';
import { raw, html as tag } from 'hono/html';

/** Markup that may stand in a page as it is. */
export type Markup = ReturnType<typeof raw>;

type Value = Markup | string | number | undefined | readonly Value[];

/** A template of markup: texts and numbers are escaped, lists follow one another, `undefined` is nothing. */
export const html = tag as (strings: TemplateStringsArray, ...values: Value[]) => Markup;

/** Text that is markup already: styles, scripts, drawings that Fenlok itself wrote. */
export const markupOf: (text: string) => Markup = raw;

/** How a page allows one style or script of its own (Content Security Policy Level 3, section 2.3.1). */
export const hashSource = (text: string): string =>
  `sha256-${btoa(String.fromCharCode(...sha256(new TextEncoder().encode(text))))}`;
