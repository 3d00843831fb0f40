/** SHA-256 of the root certificates that iOS trusts for code (Apple PKI, *Apple Root Certificates*). */
export const APPLE_ROOTS: ReadonlySet<string> = new Set([
  // Apple Root CA
  'b0b1730ecbc7ff4505142c49f1295e6eda6bcaed7e2c68c5be91b5a11001f024',
  // Apple Root CA - G2
  'c2b9b042dd57830e7d117dac55ac8ae19407d38e41d88f3215bc3a890444a050',
  // Apple Root CA - G3
  '63343abfb89a6a03ebb57e9b3f5fa7be7c4f5c756f3017b3a8c488c3653e9179',
]);
