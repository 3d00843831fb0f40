/**
 * Modified UTF-8 (Java Virtual Machine Specification, 4.4.7), as dex files and the packer's string pools have it: zero is
 * C0 80, and characters beyond U+FFFF are two surrogates of three bytes each.
 */

// a mark at the beginning of a text is a part of it
const utf8 = new TextDecoder('utf-8', { ignoreBOM: true });

/** Plain UTF-8 is taken as well, as the platform takes it; what is neither becomes U+FFFD. */
export function decodeModifiedUtf8(bytes: Uint8Array): string {
  const text = utf8.decode(bytes);
  if (!text.includes('\ufffd')) return text;
  let decoded = '';
  let plainFrom = 0;
  for (let at = 0; at < bytes.length; ) {
    const unit = unitAt(bytes, at);
    if (!unit) {
      at += 1;
      continue;
    }
    decoded += utf8.decode(bytes.subarray(plainFrom, at)) + String.fromCharCode(unit.code);
    at += unit.length;
    plainFrom = at;
  }
  const whole = decoded + utf8.decode(bytes.subarray(plainFrom));
  // a half without its other half is no text
  return whole.replace(/\p{Surrogate}/gu, '\ufffd');
}

/** What differs from UTF-8: zero, and a surrogate (ED A0 80 to ED BF BF). */
function unitAt(bytes: Uint8Array, at: number): { code: number; length: number } | undefined {
  const [first, second = 0, third = 0] = [bytes[at], bytes[at + 1], bytes[at + 2]];
  if (first === 0xc0 && second === 0x80) return { code: 0, length: 2 };
  if (first !== 0xed || second < 0xa0 || second > 0xbf || (third & 0xc0) !== 0x80) return undefined;
  return { code: 0xd000 | ((second & 0x3f) << 6) | (third & 0x3f), length: 3 };
}
