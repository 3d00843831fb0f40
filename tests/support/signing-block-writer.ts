/**
 * APK signing blocks byte by byte from the scheme documents (Android Open Source Project, *APK Signature Scheme v2*, v3
 * and v3.1), for what Debian's signer does not know, and for what no signer would write.
 */
import { createHash, createPrivateKey, type KeyObject, sign, X509Certificate } from 'node:crypto';
import { type WrittenEntry, writeZip } from './zip-writer.ts';

export interface TestSigner {
  privateKey: KeyObject;
  certificate: Buffer;
  publicKey: Buffer;
}

const signer = (key: string, certificate: string): TestSigner => {
  const der = Buffer.from(certificate, 'base64');
  return {
    privateKey: createPrivateKey({ key: Buffer.from(key, 'base64'), format: 'der', type: 'pkcs8' }),
    certificate: der,
    publicKey: new X509Certificate(der).publicKey.export({ format: 'der', type: 'spki' }),
  };
};

/** Keys made for these tests alone, EC P-256, self-signed; they guard nothing. */
export const signers = {
  old: signer(
    'MIGHAgEAMBMGByqGSM49AgEGCCqGSM49AwEHBG0wawIBAQQghm8SId2VMccmlnPVmwMy7x4SaBxWVPuViaNb8GoBz4qhRANC' +
      'AARBJw1FsSwOZcv8yeX96JUtC4IpyVGctfnAQDDCLNC9ogP6M/Kr+WFejIPAVML7z6uUbDtd9FUEyQ+RikYGvLv2',
    'MIIBezCCASGgAwIBAgIUazB8pZhNDaOLYmLTTj1AIvZ+SDEwCgYIKoZIzj0EAwIwEjEQMA4GA1UEAwwHb2xkIGtleTAgFw0y' +
      'NjExMjMxMDI5MzlaGA8yMTI2MTAzMDEwMjkzOVowEjEQMA4GA1UEAwwHb2xkIGtleTBZMBMGByqGSM49AgEGCCqGSM49AwEH' +
      'A0IABEEnDUWxLA5ly/zJ5f3olS0LginJUZy1+cBAMMIs0L2iA/oz8qv5YV6Mg8BUwvvPq5RsO130VQTJD5GKRga8u/ajUzBR' +
      'MB0GA1UdDgQWBBTbltzyYmviP++E3VYYVl+Y2arLjDAfBgNVHSMEGDAWgBTbltzyYmviP++E3VYYVl+Y2arLjDAPBgNVHRMB' +
      'Af8EBTADAQH/MAoGCCqGSM49BAMCA0gAMEUCIHmS9oscsS1x5dDD/BEoP/bxEhaic2tfJXj0TWdGVdR9AiEAp/8hwd+9Lr8D' +
      'Hv9vVqIxq5Q+apLuQxSVGFy3/ODisMM=',
  ),
  fresh: signer(
    'MIGHAgEAMBMGByqGSM49AgEGCCqGSM49AwEHBG0wawIBAQQg76wWHfdu/m5pEMaqBu17XlkvUtD07h4of3rQvDog9MOhRANC' +
      'AATGCSqSmNmNFM/tZuFxbe0Mbu0vYsCNs1OynT3cd/N6o/Ljjg4BggDaNdGqC2a6SGW8UHVDNcmIyG1RLlQmzZ1u',
    'MIIBfzCCASWgAwIBAgIUBSKCbdZPPh3kfsyT2yBT7+jxBVowCgYIKoZIzj0EAwIwFDESMBAGA1UEAwwJZnJlc2gga2V5MCAX' +
      'DTI2MTEyMzEwMjkzOVoYDzIxMjYxMDMwMTAyOTM5WjAUMRIwEAYDVQQDDAlmcmVzaCBrZXkwWTATBgcqhkjOPQIBBggqhkjO' +
      'PQMBBwNCAATGCSqSmNmNFM/tZuFxbe0Mbu0vYsCNs1OynT3cd/N6o/Ljjg4BggDaNdGqC2a6SGW8UHVDNcmIyG1RLlQmzZ1u' +
      'o1MwUTAdBgNVHQ4EFgQUIzolaXOR85ZQ2ezjLewewSNvVP8wHwYDVR0jBBgwFoAUIzolaXOR85ZQ2ezjLewewSNvVP8wDwYD' +
      'VR0TAQH/BAUwAwEB/zAKBggqhkjOPQQDAgNIADBFAiEAzBIos9Ki5Z2h1s7pCfpsnbzW2FVMpgUtyYlh1+NkEGwCIH5DhM29' +
      'JM2UmnbaYSDHgC9fECoP5VFNdmMQQD0g4WG+',
  ),
};

const ECDSA_SHA256 = 0x0201;
const u32 = (...values: number[]) => {
  const bytes = Buffer.alloc(4 * values.length);
  for (const [i, value] of values.entries()) bytes.writeUInt32LE(value >>> 0, 4 * i);
  return bytes;
};
const u64 = (value: number) => {
  const bytes = Buffer.alloc(8);
  bytes.writeBigUInt64LE(BigInt(value));
  return bytes;
};
const prefixed = (...parts: Buffer[]) => {
  const body = Buffer.concat(parts);
  return Buffer.concat([u32(body.length), body]);
};

export interface BlockOptions {
  id: number;
  by: TestSigner;
  /** From v3 on. */
  sdkRange?: [min: number, max: number];
  attributes?: [id: number, value: Buffer][];
  /** Written in place of the truth, for what does not hold. */
  lies?: {
    publicKey?: Buffer;
    digest?: Buffer;
    signedRange?: [number, number];
    algorithm?: number;
    noSigner?: boolean;
  };
}

export const BLOCK = { v2: 0x7109871a, v3: 0xf05368c0, v31: 0x1b93ad61 };

/** The archive of the entries with a signing block that holds the given schemes. */
export function writeSignedApk(entries: WrittenEntry[], blocks: BlockOptions[]): Uint8Array {
  const zip = Buffer.from(writeZip(entries));
  const endAt = zip.length - 22;
  const directoryAt = zip.readUInt32LE(endAt + 16);
  const sections = [zip.subarray(0, directoryAt), zip.subarray(directoryAt, endAt), zip.subarray(endAt)];
  const digest = contentDigest(sections);
  const pairs = blocks.map((of) => {
    const value = of.lies?.noSigner ? prefixed() : prefixed(prefixed(writeSigner(of, digest)));
    return Buffer.concat([u64(value.length + 4), u32(of.id), value]);
  });
  const body = Buffer.concat(pairs);
  const size = u64(body.length + 24);
  const block = Buffer.concat([size, body, size, Buffer.from('APK Sig Block 42')]);
  const end = Buffer.from(sections[2]!);
  end.writeUInt32LE(directoryAt + block.length, 16);
  return new Uint8Array(Buffer.concat([sections[0]!, block, sections[1]!, end]));
}

/** Chunks of 1 MiB; these archives are smaller, so each section is one. */
function contentDigest(sections: Buffer[]): Buffer {
  const hash = (...parts: Buffer[]) => createHash('sha256').update(Buffer.concat(parts)).digest();
  const chunks = sections.map((chunk) => hash(Buffer.from([0xa5]), u32(chunk.length), chunk));
  return hash(Buffer.from([0x5a]), u32(chunks.length), ...chunks);
}

function writeSigner({ attributes = [], by, id, lies = {}, sdkRange }: BlockOptions, digest: Buffer): Buffer {
  const algorithm = lies.algorithm ?? ECDSA_SHA256;
  const signed = Buffer.concat([
    prefixed(prefixed(u32(algorithm), prefixed(lies.digest ?? digest))),
    prefixed(prefixed(by.certificate)),
    sdkRange && id !== BLOCK.v2 ? u32(...(lies.signedRange ?? sdkRange)) : Buffer.alloc(0),
    prefixed(...attributes.map(([name, value]) => prefixed(u32(name), value))),
  ]);
  return Buffer.concat([
    prefixed(signed),
    sdkRange && id !== BLOCK.v2 ? u32(...sdkRange) : Buffer.alloc(0),
    prefixed(prefixed(u32(algorithm), prefixed(sign('sha256', signed, by.privateKey)))),
    prefixed(lies.publicKey ?? by.publicKey),
  ]);
}

export const PROOF_OF_ROTATION = 0x3ba06f8c;
export const ROTATION_MIN_SDK = 0x559f8b02;

/** Each signs the next, the last is the signer's own. */
export function proofOfRotation(chain: TestSigner[], forged = false): Buffer {
  const levels = chain.map(({ certificate }, i) => {
    const before = chain[i - 1];
    const signed = Buffer.concat([prefixed(certificate), u32(before ? ECDSA_SHA256 : 0)]);
    const by = forged ? chain.at(-1)! : before;
    const signature = before ? sign('sha256', signed, by!.privateKey) : Buffer.alloc(0);
    return prefixed(
      prefixed(signed),
      u32(0),
      u32(i < chain.length - 1 ? ECDSA_SHA256 : 0),
      prefixed(signature),
    );
  });
  return Buffer.concat([u32(1), ...levels]);
}

export const minSdkAttribute = (sdk: number): [number, Buffer] => [ROTATION_MIN_SDK, u32(sdk)];
