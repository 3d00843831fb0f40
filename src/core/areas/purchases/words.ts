import type { FindingData } from '../../model/finding.ts';
import { type ScenarioId, scenarios } from '../../platform/purchases/scenarios.ts';
import { type AreaWords, type DataValue, quote, textsOf } from '../words.ts';

export const purchasesWords: AreaWords = {
  'product-ids': ({ asked, fault, isReturned, near, product, returned }) => {
    const counted = `${returned} of ${asked} products returned`;
    const said: Record<string, [what: string, measured: string, required: string, remedy: string]> = {
      misspelt: [
        `The app asks the store for ${quote(String(product))}, which is probably ${quote(String(near))} misspelt`,
        isReturned ? 'the store has a product of that name, too' : `${counted}; this one is not among them`,
        quote(String(near)),
        `Ask for ${near}, or write ${product} into fenlok.yaml where it is meant.`,
      ],
      'not-intended': [
        `The app asks the store for ${quote(String(product))}, which fenlok.yaml does not name`,
        isReturned ? 'the store returns it' : counted,
        'products of fenlok.yaml',
        'Write it under purchases.products, or ask for it no more.',
      ],
      'not-returned': [
        `The store does not return ${quote(String(product))}`,
        counted,
        'every product that is asked for',
        'Look whether it is approved and for sale in this country, and whether the device is signed in to the test catalogue.',
      ],
      'not-asked': [
        `The app never asks the store for ${quote(String(product))}`,
        `${asked} other products asked for`,
        'every product of fenlok.yaml',
        'Ask for it, or take it out of purchases.products.',
      ],
    };
    const [what, measured, required, remedy] = said[String(fault)]!;
    return {
      what,
      measured,
      required,
      why: 'What the store does not return is not in the shop, and no error says so.',
      remedy,
    };
  },

  'signed-sale': ({ fault, found, lacking, name, near, product, wanted, why }) => {
    const said: Record<string, [what: string, measured: string, required: string, remedy: string]> = {
      refused: [
        'its signature does not hold',
        String(why),
        'a signature of the store, over these bytes',
        'Take the file as the store handed it out; if it came from an app, the app must not give anything for it.',
      ],
      'other-app': [
        'it is of another app',
        quote(String(found)),
        quote(String(wanted)),
        'Compare the app id before anything is given for a sale.',
      ],
      'not-intended': [
        `${quote(String(product))} is no product of fenlok.yaml`,
        quote(String(product)),
        near ? `${quote(String(near))}, which is near` : 'a product of purchases.products',
        'Write it under purchases.products, or correct its id at the store.',
      ],
      kind: [
        `${quote(String(product))} is of another kind than fenlok.yaml says`,
        String(found),
        String(wanted),
        'Correct the kind at the store, or in fenlok.yaml.',
      ],
      unchecked: [
        'its signature could not be checked',
        lacking === 'root' ? "its root is not Apple's" : 'no key to check it with',
        'a signature of the store, over these bytes',
        lacking === 'root'
          ? 'Add it again with --store FILE, the file of the test store that signed it.'
          : 'Add it again with --license-key FILE (the key that the store shows for the app), or with --store FILE of a test store.',
      ],
    };
    const [what, measured, required, remedy] = said[String(fault)]!;
    return {
      what: `${name}: ${what}`,
      measured,
      required,
      why: 'Who gives goods for a sale that the store did not sign, or for another product, gives them away.',
      remedy,
    };
  },

  'product-offer': ({ fault, found, product, wanted }) => {
    const { remedy, what, why } = OFFERS[String(fault)]!;
    return {
      what: `${product}: ${what}`,
      measured: quote(String(found)),
      required: String(wanted),
      why,
      remedy,
    };
  },

  'product-texts': ({ fault, found, locale, name, product }) => {
    const { remedy, required, what, why } = TEXTS[String(fault)]!;
    return {
      what: `${product} in ${locale}: ${what}`,
      measured:
        found === ''
          ? 'nothing returned'
          : `${quote(String(name))}${found === name ? '' : `, with ${quote(String(found))}`}`,
      required,
      why,
      remedy,
    };
  },

  'shown-price': ({ fault, found, locale, prices }) => ({
    what:
      fault === 'form'
        ? 'A price is not written as the store writes it'
        : 'An amount of money on the screen is no price of the store',
    measured: `${quote(String(found))} (${locale})`,
    required: textsOf(prices).join(', '),
    why: 'The store charges in its own currency, and writes it as the language does; what stands on the screen must be that.',
    remedy: 'Show the price text that the store returns, and format nothing by hand.',
  }),

  'written-price': ({ found, key, locale, text }) => ({
    what: `A text of the app holds a price: ${key} (${locale})`,
    measured: `${quote(String(found))} in ${quote(String(text))}`,
    required: 'a placeholder that the store’s price is filled into',
    why: 'The same text is shown where other money is paid, and after the price has changed.',
    remedy: 'Put a placeholder in its place; or rule that it is the price of something that no store sells.',
  }),

  'purchase-terms': ({ locale, period, product, text }) => ({
    what: `It does not stand beside the price of ${product} how often it is paid`,
    measured: `${quote(String(text))} (${locale})`,
    required: `the price and its period (${period}) together`,
    why: 'Both stores refuse subscriptions whose period and price do not stand where they are bought.',
    remedy: 'Write the period beside the price, in each language.',
  }),

  'unpaid-purchase': sayMatter,
  'missing-purchase': sayMatter,
  'unrestored-purchase': sayMatter,
  'resold-purchase': sayMatter,
  'ended-purchase': sayMatter,
  'unfinished-purchase': sayMatter,

  'purchase-quiet': ({ count, first }) => ({
    what: 'The app goes on asking the store in the background, with everything expired',
    measured: `${count} requests after it was left, the first at ${first}`,
    required: 'none until it is opened again',
    why: 'It costs battery and data, and there is nothing that it could learn.',
    remedy: 'End the listener when the user leaves and nothing is active.',
  }),
};

function sayMatter({
  afterMin,
  codes,
  count,
  firstAt,
  matter,
  product,
}: FindingData): Words & { measured: string; required: string } {
  const { remedy, required, what, why } = MATTERS[String(matter)]!;
  const often = Number(count) === 1 ? '' : `${count} times, first `;
  const at = String(firstAt).slice(0, 16).replace('T', ' ');
  return {
    what: `${product}: ${what}`,
    measured: `${textsOf(codes).map(sayCode).join('; ')} (${often}at ${at} by the store’s clock${sayAfter(afterMin)})`,
    required,
    why,
    remedy,
  };
}

function sayAfter(minutes: DataValue): string {
  if (minutes === undefined || Number(minutes) < 1) return '';
  const n = Number(minutes);
  if (n < 120) return `, after ${n} min`;
  return n < 2 * 24 * 60 ? `, after ${Math.round(n / 60)} hours` : `, after ${Math.round(n / 60 / 24)} days`;
}

interface Words {
  what: string;
  why: string;
  remedy: string;
}

const OFFERS: Readonly<Record<string, Words>> = {
  kind: {
    what: 'the store has it as another kind than fenlok.yaml',
    why: 'What is used up, kept or renewed is bought, finished and restored in different ways.',
    remedy: 'Mend the kind in the store’s catalogue; most stores want a new id for it.',
  },
  period: {
    what: 'the store renews it in another rhythm than fenlok.yaml says',
    why: 'People pay more often, or less often, than the screen tells them.',
    remedy: 'Mend the period in the store’s catalogue, or in fenlok.yaml.',
  },
  free: {
    what: 'it costs nothing',
    why: 'A price that was never set is 0 in some test catalogues, and is then sold for it.',
    remedy: 'Set the price for this country; or rule that it is meant.',
  },
  currency: {
    what: 'its price is in money that does not exist',
    why: 'No amount can be shown or charged in it.',
    remedy: 'Mend the currency in the store’s catalogue.',
  },
};

const TEXTS: Readonly<Record<string, Words & { required: string }>> = {
  price: {
    what: 'a price is written into its name or description',
    required: 'a name without money',
    why: 'It is shown beside the true price, which is another one in other money and after every change.',
    remedy: 'Take the amount out of the text in the store’s catalogue.',
  },
  duration: {
    what: 'a duration is written into its name',
    required: 'a name that holds for every offer of it',
    why: 'Trials and other periods are sold under the same name.',
    remedy: 'Take the duration out, or rule that it is part of the name.',
  },
  untranslated: {
    what: 'its name is the same as in the source language',
    required: 'a name in this language',
    why: 'Where a translation is missing, stores show that of another language, and say nothing.',
    remedy: 'Add the translation in the store’s catalogue, or rule that the name is the same everywhere.',
  },
  duplicate: {
    what: 'another product has the same name',
    required: 'names that tell products apart',
    why: 'On the store’s sheet and in the receipt nobody can tell which one is bought.',
    remedy: 'Give each product a name of its own.',
  },
  'not-offered': {
    what: 'the store does not offer it in this language',
    required: 'every product in every language that is shipped',
    why: 'It is missing from the shop of everybody who uses the app in this language.',
    remedy: 'Add name and price for it in the store’s catalogue.',
  },
};

const MATTERS: Readonly<Record<string, Words & { required: string }>> = {
  'granted-unpaid': {
    what: 'it is given although nothing was paid',
    required: 'nothing before the store says that it is bought',
    why: 'Who cancels, or waits for somebody’s consent, has it for nothing.',
    remedy: 'Give the goods when the transaction is there and verified, not when the button is touched.',
  },
  'granted-twice': {
    what: 'one sale is handed over twice',
    required: 'once for each transaction',
    why: 'A sale that is not finished comes back at every launch, and is given again each time.',
    remedy: 'Keep the numbers of transactions that were handed over, and finish each.',
  },
  kept: {
    what: 'it is still given after it ended',
    required: 'gone when it expires, is refunded or taken back',
    why: 'Who gets the money back, or stops to pay, keeps the goods.',
    remedy: 'Ask the store at each launch what is held now, and take away what is not among it.',
  },
  missing: {
    what: 'it is paid for, and not given',
    required: 'there at once, and after every relaunch',
    why: 'People paid and stand before a locked door.',
    remedy: 'Give it as soon as the transaction is there, and read what is held at each launch.',
  },
  'not-restored': {
    what: 'it is paid for, and restoring does not bring it back',
    required: 'there after restoring, on every device of the account',
    why: 'A new phone, or a purchase on the web, is the most common reason to write to support.',
    remedy: 'Give all that the store returns when it is asked to restore.',
  },
  'sold-twice': {
    what: 'it is sold to somebody who has it',
    required: 'no sale of what is owned',
    why: 'People pay twice, and get nothing for it.',
    remedy: 'Hide the button from owners, and ask the store before selling.',
  },
  unfinished: {
    what: 'its sales are never acknowledged',
    required: 'acknowledged once the goods were handed over, within three days on Android',
    why: 'The store hands them out again at every launch, and gives the money back after three days.',
    remedy: 'Finish (acknowledge, consume) the transaction after the goods were given.',
  },
  'finished-twice': {
    what: 'a sale is acknowledged twice',
    required: 'once',
    why: 'It was probably handed over twice as well.',
    remedy: 'Keep the numbers of transactions that were finished.',
  },
  'finished-early': {
    what: 'a sale is acknowledged before the goods are handed over',
    required: 'first the goods, then the acknowledgement',
    why: 'If the app ends in between, the store never tells it of the sale again.',
    remedy: 'Finish the transaction when the goods are stored.',
  },
};

const CODES: Readonly<Record<string, string>> = {
  'granted-unpaid': 'given with nothing paid',
  'granted-twice': 'handed over again',
  'granted-after-refund': 'given after a refund',
  'kept-after-refund': 'kept after a refund',
  'kept-after-expiry': 'kept after its end',
  'lost-too-early': 'lost while it is paid for',
  'not-granted': 'not given on the device that bought it',
  'not-restored': 'not given after restoring',
  'sold-twice': 'sold to an owner',
  unfinished: 'not finished',
  overdue: 'not finished in time',
  'finished-twice': 'finished again',
  'finished-early': 'finished before it was given',
  'at-once': 'not given until the app was opened anew',
};
const sayCode = (code: string): string =>
  CODES[code] ?? `departs when it is ${scenarios[code as ScenarioId].name}`;
