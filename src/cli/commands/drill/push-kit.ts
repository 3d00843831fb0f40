import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { readPushPayload } from '../../../core/formats/push-payload.ts';
import type { Intent } from '../../../core/model/intent.ts';
import { headersFor } from '../../../core/platform/push/headers-for.ts';
import type { PushKit } from '../../../device/drills/push-walk.ts';
import type { Dossier } from '../../../node/dossier.ts';
import { addPayload, readPayloadBytes } from '../../../node/payloads.ts';
import { readGatewayFile } from '../../../node/push/gateway-file.ts';
import { pushSender } from '../../../node/push/send-push.ts';

/** What a walk through the messages of the intent file needs; the messages are taken into the dossier, too. */
export async function pushKit(
  gatewayFile: string,
  intentFile: string,
  intent: Intent,
  dossier: Dossier,
): Promise<PushKit> {
  const messages = new Map<string, { body: Uint8Array; headers: Record<string, string> }>();
  for (const { id, payload, screen } of intent.push.messages) {
    const file = join(dirname(intentFile), payload);
    const body = await readPayloadBytes(file);
    readPushPayload(file, body);
    const { appId } = dossier.candidate.build;
    messages.set(id, { body, headers: headersFor({ silent: screen === undefined }, appId) });
    await addPayload(dossier, file);
  }
  const { folder, candidate } = dossier;
  return {
    sender: await pushSender(await readGatewayFile(gatewayFile)),
    messages,
    apk: new Uint8Array(await readFile(join(folder, candidate.package.file))),
  };
}
