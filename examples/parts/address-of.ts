/** Where a request leads; undefined where that is no address, or one that cannot be decoded: such a request gets 400. */
export function addressOf(target = '/'): URL | undefined {
  try {
    const address = new URL(target, 'http://127.0.0.1');
    decodeURIComponent(address.pathname);
    return address;
  } catch {
    return undefined;
  }
}
