import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { readPushPayload } from '../../../core/formats/push-payload.ts';
import type { Intent } from '../../../core/model/intent.ts';
import { headersFor } from '../../../core/platform/push/headers-for.ts';
import type { PushKit } from '../../../device/drills/walks/walk-messages.ts';
import type { Dossier } from '../../../node/dossier.ts';
import { addPayload, readPayloadBytes } from '../../../node/payloads.ts';
import { senderFor } from '../../../node/push/sender-for.ts';
import { UsageError } from '../../io.ts';

/** What a walk through the messages of the intent file needs; the messages are taken into the dossier, too. */
export async function pushKit(
  serviceFile: string,
  intentFile: string,
  intent: Intent,
  dossier: Dossier,
): Promise<PushKit> {
  const { folder, candidate } = dossier;
  const apk = join(folder, candidate.package.file);
  if (!apk.endsWith('.apk'))
    throw new UsageError(
      `--push: push installs the app again, and ${candidate.package.file} is no APK; begin the dossier with one`,
    );
  const sender = await senderFor(serviceFile);
  if (sender.service !== 'messages')
    throw new UsageError(
      `--push ${serviceFile}: that is the gateway of iOS; an Android device gets its messages from  fenlok standin messages --connection FILE`,
    );
  const messages = new Map<string, { body: Uint8Array; headers: Record<string, string> }>();
  for (const { id, payload, screen } of intent.push.messages) {
    const file = join(dirname(intentFile), payload);
    const body = await readPayloadBytes(file);
    readPushPayload(file, body);
    messages.set(id, {
      body,
      headers: headersFor({ silent: screen === undefined }, candidate.build.appId),
    });
    await addPayload(dossier, file);
  }
  return {
    sender,
    messages,
    apk: new Uint8Array(await readFile(apk)),
  };
}
