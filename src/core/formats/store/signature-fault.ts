import type { ChainFault } from '../signing/certificate-chain.ts';
import type { SignatureFault } from './signed-transaction.ts';

/** Why what was signed is not believed, as the end of a sentence. */
export function formatFault(fault: SignatureFault): string {
  switch (fault.code) {
    case 'not-a-jws':
      return `it is no JWS: ${fault.why}`;
    case 'wrong-algorithm':
      return `it is signed with ${fault.algorithm} instead of ES256`;
    case 'no-chain':
      return 'it names no certificates (x5c)';
    case 'chain':
      return formatChainFault(fault.chain);
    case 'wrong-signature':
      return 'the signature is not over these bytes, or not by this key';
    case 'wrong-payload':
      return `its content cannot be read: ${fault.why}`;
    case 'other-app':
      return `it is of the app ${fault.appId}`;
    case 'too-large':
      return `it has ${fault.bytes} bytes`;
    default:
      return fault satisfies never;
  }
}

function formatChainFault(fault: ChainFault): string {
  switch (fault.code) {
    case 'too-few':
    case 'too-many':
      return `it names ${fault.count} certificates`;
    case 'unreadable':
      return `certificate ${fault.position + 1} cannot be read: ${fault.why}`;
    case 'not-signed':
      return `the certificate of ${fault.subject} was not issued by the next one`;
    case 'no-authority':
      return `the certificate of ${fault.subject} may issue none`;
    case 'out-of-date':
      return `the certificate of ${fault.subject} is valid from ${fault.validFrom} to ${fault.validUntil}`;
    case 'no-mark':
      return `the certificate of ${fault.subject} is not one for the store (${fault.oid})`;
    case 'untrusted':
      return `its root ${fault.subject} is neither Apple's nor that of the store that was given`;
    default:
      return fault satisfies never;
  }
}
