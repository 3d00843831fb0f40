/** Provisioning profiles: a property list inside CMS signed data (Apple, *TN3125: Inside Code Signing: Provisioning Profiles*). */
import type { PlistDict, ProvisioningProfile } from '../../model/app-package.ts';
import { type Ports, sha256Hex } from '../../model/ports.ts';
import { UnreadableError } from '../../model/problem.ts';
import { fromBase64 } from '../base64.ts';
import { parseSignedData, verifySignedData } from '../signing/cms.ts';
import { isDict, parsePlistDict, textAt, textsAt } from './plist.ts';

/** @throws UnreadableError where it is no signed data, or holds no property list */
export async function readProvisioningProfile(
  bytes: Uint8Array,
  name: string,
  ports: Ports,
): Promise<ProvisioningProfile> {
  const data = parseSignedData(bytes, name);
  if (!data.content)
    throw new UnreadableError({ code: 'profile.empty', place: name, found: 'a signature over nothing' });
  const dict = parsePlistDict(data.content, name);
  const certificates = textsAt(dict, 'DeveloperCertificates').map(fromBase64);
  return {
    name: textAt(dict, 'Name'),
    uuid: textAt(dict, 'UUID'),
    teamIds: textsAt(dict, 'TeamIdentifier'),
    createdAt: textAt(dict, 'CreationDate'),
    expiresAt: textAt(dict, 'ExpirationDate'),
    kind: kindOf(dict),
    deviceCount: textsAt(dict, 'ProvisionedDevices').length,
    entitlements: entitlementsOf(dict),
    certificateDigests: await Promise.all(certificates.map((der) => sha256Hex(ports, der))),
    signed: (await verifySignedData(data, data.content, ports)).problems.length === 0,
  };
}

const entitlementsOf = (dict: PlistDict): PlistDict => (isDict(dict.Entitlements) ? dict.Entitlements : {});

/** Devices are listed for development and ad hoc; an enterprise's profile says that it needs no list. */
function kindOf(dict: PlistDict): ProvisioningProfile['kind'] {
  if (dict.ProvisionsAllDevices === true) return 'enterprise';
  if (entitlementsOf(dict)['get-task-allow'] === true) return 'development';
  return 'ProvisionedDevices' in dict ? 'ad-hoc' : 'store';
}
