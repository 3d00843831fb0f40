/** Moments as traces write them, in milliseconds since 1970. The usual form, `2026-11-27T10:00:00.000Z`, is read by hand: a long history holds millions. */
export function instantMs(iso: string): number {
  if (iso.length !== 24 || iso.charCodeAt(23) !== Z || iso.charCodeAt(19) !== POINT) return Date.parse(iso);
  const year = digits(iso, 0, 4);
  const month = digits(iso, 5, 7);
  const seconds = digits(iso, 11, 13) * 3600 + digits(iso, 14, 16) * 60 + digits(iso, 17, 19);
  const ms = daysBefore(year, month, digits(iso, 8, 10)) * DAY_MS + seconds * 1000 + digits(iso, 20, 23);
  return Number.isNaN(ms) ? Date.parse(iso) : ms;
}

const Z = 90;
const POINT = 46;
const ZERO = 48;
const DAY_MS = 24 * 3600_000;

function digits(text: string, from: number, to: number): number {
  let value = 0;
  for (let i = from; i < to; i++) {
    const digit = text.charCodeAt(i) - ZERO;
    if (digit < 0 || digit > 9) return Number.NaN;
    value = value * 10 + digit;
  }
  return value;
}

/** Days since 1970-01-01 of the proleptic Gregorian calendar: years begin in March, so that the leap day is their last. */
function daysBefore(year: number, month: number, day: number): number {
  const y = month > 2 ? year : year - 1;
  const sinceMarch = month > 2 ? month - 3 : month + 9;
  const era = Math.floor(y / 400);
  const ofEra = y - era * 400;
  const ofYear = Math.floor((153 * sinceMarch + 2) / 5) + day - 1;
  return era * 146_097 + ofEra * 365 + Math.floor(ofEra / 4) - Math.floor(ofEra / 100) + ofYear - 719_468;
}
