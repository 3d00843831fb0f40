import { exportPKCS8, generateKeyPair } from 'jose';

const DAY_MS = 24 * 3600_000;

/** A certificate for loopback alone, which is gone when its server is. Both parts are PEM. */
export async function selfSigned(): Promise<{ key: string; cert: string }> {
  // the library wants its polyfill first, which changes a global; so both wait until they are needed
  await import('reflect-metadata');
  const { BasicConstraintsExtension, SubjectAlternativeNameExtension, X509CertificateGenerator } =
    await import('@peculiar/x509');
  const keys = await generateKeyPair('ES256', { extractable: true });
  const certificate = await X509CertificateGenerator.createSelfSigned({
    name: 'CN=127.0.0.1',
    notBefore: new Date(Date.now() - DAY_MS),
    notAfter: new Date(Date.now() + 30 * DAY_MS),
    keys,
    signingAlgorithm: { name: 'ECDSA', hash: 'SHA-256' },
    extensions: [
      new BasicConstraintsExtension(true),
      new SubjectAlternativeNameExtension([
        { type: 'ip', value: '127.0.0.1' },
        { type: 'dns', value: 'localhost' },
      ]),
    ],
  });
  return { key: await exportPKCS8(keys.privateKey), cert: certificate.toString('pem') };
}
