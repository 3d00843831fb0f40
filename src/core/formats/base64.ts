/** Base64 (RFC 4648, section 4). */

export function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
}

/** Empty where the text is none. */
export function fromBase64(text: string): Uint8Array {
  try {
    return Uint8Array.from(atob(text.trim()), (char) => char.charCodeAt(0));
  } catch {
    return new Uint8Array();
  }
}
