/** `fenlok standin phone --platform ios`: an iOS device with a lookout on it. */
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { UnreadableError } from '../../../core/model/problem.ts';
import type { SiteFile } from '../../../core/model/site-file.ts';
import { forgetKnown, makeKnown } from '../../../device/ios/known-lookouts.ts';
import { readAdsFile } from '../../../node/ads/ads-file.ts';
import { ownFile } from '../../../node/own-files.ts';
import { readGatewayFile } from '../../../node/push/gateway-file.ts';
import { openSiteFile } from '../../../node/site-files.ts';
import { type Io, UsageError } from '../../io.ts';
import { stateFolderOf } from '../device-options.ts';
import { inCwd } from '../options.ts';
import { portOf } from './port-of.ts';
import { storeFor } from './store-for.ts';
import { untilStopped } from './until-stopped.ts';

interface IosPhoneCall {
  shape: string;
  port: string;
  package: string[];
  sites?: string;
  push?: string;
  store?: string;
  account?: string;
  ads?: string;
  json?: boolean;
}

export async function standIosPhone(call: IosPhoneCall, io: Io): Promise<void> {
  const { iosShapes } = await import('../../../standins/phone/ios/ios-shapes.ts');
  const { serveLookout } = await import('../../../standins/phone/ios/serve-lookout.ts');
  const { serveTools } = await import('../../../standins/phone/ios/serve-tools.ts');
  const { kelplineIos } = await import('../../../standins/phone/apps/kelpline/ios.ts');
  const { nodePorts } = await import('../../../node/ports.ts');
  const shape = iosShapes[call.shape === 'common' ? 'phone' : call.shape];
  if (!shape)
    throw new UsageError(
      `no iOS device is shaped "${call.shape}"; there are ${Object.keys(iosShapes).join(', ')}`,
    );
  const served = await serveLookout({
    shape,
    ports: nodePorts,
    apps: [kelplineIos],
    port: portOf(call.port),
    sites: call.sites === undefined ? [] : await siteFilesIn(inCwd(io, call.sites)),
    push: call.push === undefined ? undefined : await devicesOf(inCwd(io, call.push)),
    store: call.store === undefined ? undefined : await storeFor(inCwd(io, call.store), call.account),
    ads: call.ads === undefined ? undefined : (await readAdsFile(inCwd(io, call.ads))).ads,
  });
  const stateFolder = stateFolderOf(io);
  // colours and drawings of its apps are those of the demo's own package
  const drawings = new Uint8Array(await readFile(ownFile('demo/kelpline/kelpline.apk')));
  const tools = await serveTools(served, drawings);
  try {
    for (const file of call.package) {
      const ipa = new Uint8Array(await readFile(inCwd(io, file)));
      const installed = await served.phone.install(ipa, drawings);
      io.err(`Installed ${installed.label} ${installed.opened.app.build.version}\n`);
    }
    const { address, token } = served;
    await makeKnown(stateFolder, {
      address,
      token,
      pid: process.pid,
      name: shape.name,
      tools: tools.address,
    });
    io.out(
      call.json
        ? `${JSON.stringify({ address, token, shape: shape.name })}\n`
        : `The ${shape.name} is at ${address}. Drive it with  fenlok drill --device ios:${address}\n`,
    );
    await untilStopped(io);
  } finally {
    await forgetKnown(stateFolder, served.address);
    await tools.close();
    await served.close();
  }
}

/** What a phone needs of the gateway's file. */
async function devicesOf(file: string): Promise<{ devices: string; secret: string }> {
  const { devices, secret } = await readGatewayFile(file);
  if (devices && secret) return { devices, secret };
  throw new UnreadableError({
    code: 'gateway.no-devices',
    file,
    found: 'a gateway that a stand-in phone cannot connect to',
    expected: 'the file of a stand-in: fenlok standin push --connection FILE',
  });
}

/** What sites say of their apps: HOST/.well-known/apple-app-site-association. */
async function siteFilesIn(folder: string): Promise<SiteFile[]> {
  const hosts = await readdir(folder).catch(() => []);
  const read = await Promise.all(
    hosts.map((host) =>
      openSiteFile(join(folder, host, '.well-known', 'apple-app-site-association')).catch(() => undefined),
    ),
  );
  return read.filter((one) => one !== undefined);
}
