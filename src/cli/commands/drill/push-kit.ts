import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { readPushPayload } from '../../../core/formats/push-payload.ts';
import type { Platform } from '../../../core/model/candidate.ts';
import type { Intent } from '../../../core/model/intent.ts';
import { payloadFileOf } from '../../../core/model/intent-parts.ts';
import { headersFor } from '../../../core/platform/push/headers-for.ts';
import type { MessageToSend, PushKit } from '../../../device/drills/walks/walk-messages.ts';
import type { Dossier } from '../../../node/dossier.ts';
import { addPayload, readPayloadBytes } from '../../../node/payloads.ts';
import type { PushSender } from '../../../node/push/send-push.ts';
import { senderFor } from '../../../node/push/sender-for.ts';
import { UsageError } from '../../io.ts';

const SERVICES: Record<Platform, { service: PushSender['service']; start: string; packed: string }> = {
  android: { service: 'messages', start: 'fenlok standin messages --connection FILE', packed: '.apk' },
  ios: { service: 'gateway', start: 'fenlok standin push --connection FILE', packed: '.ipa' },
};

/** What a walk through the messages of the intent file needs; the messages are taken into the dossier, too. */
export async function pushKit(
  serviceFile: string,
  intentFile: string,
  intent: Intent,
  dossier: Dossier,
): Promise<PushKit> {
  const { folder, candidate } = dossier;
  const { platform } = candidate;
  const { packed, service, start } = SERVICES[platform];
  const file = join(folder, candidate.package.file);
  if (!file.endsWith(packed))
    throw new UsageError(
      `--push: push installs the app again, and ${candidate.package.file} is no ${packed.slice(1).toUpperCase()}; begin the dossier with one`,
    );
  const sender = await senderFor(serviceFile);
  if (sender.service !== service) {
    sender.close();
    throw new UsageError(
      `--push ${serviceFile}: that sends to the other platform; this app gets its messages from  ${start}`,
    );
  }
  const messages = new Map<string, MessageToSend>();
  for (const message of intent.push.messages) {
    const named = payloadFileOf(message, platform);
    if (named === undefined) continue;
    const payload = join(dirname(intentFile), named);
    const body = await readPayloadBytes(payload);
    const { badge } = readPushPayload(payload, body);
    messages.set(message.id, {
      body,
      counts: badge !== undefined && badge > 0,
      headers: headersFor({ silent: message.screen === undefined }, candidate.build.appId),
    });
    await addPayload(dossier, payload);
  }
  return { sender, messages, package: new Uint8Array(await readFile(file)) };
}
