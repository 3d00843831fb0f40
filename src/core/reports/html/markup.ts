/** HTML that escapes every value, unless the value is markup itself. */
import { raw, html as tag } from 'hono/html';

/** Markup that may stand in a page as it is. */
export type Markup = ReturnType<typeof raw>;

type Value = Markup | string | number | undefined | readonly Value[];

/** A template of markup: texts and numbers are escaped, lists follow one another, `undefined` is nothing. */
export const html = tag as (strings: TemplateStringsArray, ...values: Value[]) => Markup;

/** Text that is markup already: styles, scripts, drawings that Fenlok itself wrote. */
export const markupOf: (text: string) => Markup = raw;
