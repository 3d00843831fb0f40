import { join } from 'node:path';
import { PAYLOAD_FILE_LIMIT_BYTES, readPushPayload } from '../../../core/formats/push-payload.ts';
import type { AppPackage } from '../../../core/model/app-package.ts';
import type { PushPayload } from '../../../core/model/push-payload.ts';
import { formatRefusal } from '../../../core/platform/push/format-refusal.ts';
import { headersFor } from '../../../core/platform/push/headers-for.ts';
import { type PayloadPreview, previewPayload } from '../../../core/platform/push/preview-payload.ts';
import { topicFor } from '../../../core/platform/push/push-types.ts';
import { textFor } from '../../../core/platform/push/text-for.ts';
import { printable } from '../../../core/reports/escape.ts';
import { payloadView } from '../../../core/reports/payload-view.ts';
import { exists, openDossier } from '../../../node/dossier.ts';
import { readPayloadBytes } from '../../../node/payloads.ts';
import type { PushAnswered, PushEnvironment, PushSender } from '../../../node/push/send-push.ts';
import { senderFor } from '../../../node/push/sender-for.ts';
import { withPackage } from '../../../node/read-package.ts';
import type { AddCommand } from '../../command-table.ts';
import { type ExitCode, exitCode } from '../../exit-code.ts';
import { type Io, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { withBridge } from '../device-options.ts';
import { inCwd } from '../options.ts';
import { type MessageCall, type MessageOnDevice, tryOnDevice } from './payload-on-device.ts';

interface PayloadOptions extends MessageCall {
  package?: string;
  dossier: string;
  locale: string[];
  send?: string;
  token?: string;
  tokenFile?: string;
  environment: string;
  topic?: string;
  type?: string;
  priority?: string;
  expiration?: string;
  collapseId?: string;
  json?: boolean;
}

/** `fenlok try payload`: what is wrong with a push message, how it reads in each language; and sends it. */
export const payloadCommand: AddCommand = (command, { io, finish }) => {
  withBridge(command)
    .argument('<file>', 'JSON of the message; - reads it from standard input')
    .option('--package <file>', 'the package whose texts it is held against (default: that of the dossier)')
    .option('--dossier <folder>', 'the folder of this candidate', 'dossier')
    .option('--locale <tags...>', 'only these languages', [])
    .option('--type <type>', 'apns-push-type (default: as the message looks)')
    .option('--priority <number>', 'apns-priority')
    .option('--topic <id>', 'apns-topic (default: the app id of the package)')
    .option('--expiration <seconds>', 'apns-expiration')
    .option('--collapse-id <text>', 'apns-collapse-id')
    .option(
      '--send <file>',
      'send it: a file that names the push gateway (iOS) or messaging service (Android), with its key',
    )
    .option('--token <token>', 'of the device')
    .option('--token-file <file>', 'a file that holds it, so that it stays out of the shell history')
    .option(
      '--environment <name>',
      'production or development (on Android: its second project)',
      'production',
    )
    .option(
      '--device <serial>',
      'a phone: --send sends it to the app there in front, left and gone, and a tap on it follows',
    )
    .option('--app <id>', 'with --device: the app (default: the one in front)')
    .option('--json', 'print the result as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok try payload delay.json --package app-release.apk\n  fenlok standin push --connection gateway.json     (then: fenlok try payload delay.json --send gateway.json --token-file token.txt)\n  fenlok try payload delay.json --send messages.json --device SERIAL     (the app itself tells its token)\n\nExit codes: 0 fine or sent, 1 wrong or refused, 4 with --device: whether it was shown could not be told, 5 no gateway or no phone',
    )
    .action(async (file: string, options: PayloadOptions) => {
      const environment = demandFitting(options);
      const bytes =
        file === '-' ? await io.input(PAYLOAD_FILE_LIMIT_BYTES) : await readPayloadBytes(inCwd(io, file));
      const app = await appOf(options, io);
      const looked = readPushPayload(file, bytes);
      const headers = headersOf(looked, options, app);
      // whose message it is may not be known yet; then only the message itself is looked at
      const isAddressed = options.send !== undefined || headers['apns-topic'] !== undefined;
      const payload = isAddressed ? readPushPayload(file, bytes, headers) : looked;
      const previews = app ? previewsOf(payload, app, options.locale) : [];
      const message = { payload, body: bytes, headers };
      const sent = options.send ? await sendIt(message, environment, options, io) : {};
      const { view: onPhone, ...phone } = sent.phone ?? {};
      io.out(
        options.json
          ? `${JSON.stringify({ ...payload, headers, previews, answered: sent.answered?.answered, ...(sent.phone && { phone }) }, null, 2)}\n`
          : payloadView(printable({ file, payload, headers, previews }), {
              style: styleFor(io),
              widthColumns: io.columns,
            }) +
              (sent.answered ? formatAnswer(sent.answered, environment) : '') +
              (onPhone ? `\n${onPhone}` : ''),
      );
      const isWrong =
        payload.problems.some(({ level }) => level === 'error') ||
        previews.some(({ trouble }) => trouble.some(({ kind }) => kind !== 'cut'));
      finish(isWrong ? exitCode.blocked : codeOf(sent));
    });
};

/** @throws UsageError where options do not go together; @returns the environment */
function demandFitting(options: PayloadOptions): PushEnvironment {
  if (options.environment !== 'production' && options.environment !== 'development')
    throw new UsageError(`--environment ${options.environment}: say production or development`);
  if (options.send && !options.device && !options.token && !options.tokenFile)
    throw new UsageError(
      '--send: name the device with --token or --token-file, or --device for a phone at hand',
    );
  if (options.device && !options.send)
    throw new UsageError('--device: name the messaging service with --send');
  if (options.app && !options.device) throw new UsageError('--app: it goes with --device');
  return options.environment;
}

async function appOf({ dossier, package: file }: PayloadOptions, io: Io): Promise<AppPackage | undefined> {
  const folder = inCwd(io, dossier);
  if (file) return withPackage(inCwd(io, file), ({ app }) => app, { parts: 'declared' });
  if (!(await exists(join(folder, 'dossier.json')))) return undefined;
  const { candidate } = await openDossier(folder);
  return withPackage(join(folder, candidate.package.file), ({ app }) => app, { parts: 'declared' });
}

function headersOf(
  payload: PushPayload,
  { collapseId, expiration, priority, topic, type }: PayloadOptions,
  app: AppPackage | undefined,
): Record<string, string> {
  return {
    ...headersFor(payload, topic ?? (app && topicFor(app.build.appId, type ?? 'alert')), type),
    ...(priority !== undefined && { 'apns-priority': priority }),
    ...(expiration !== undefined && { 'apns-expiration': expiration }),
    ...(collapseId !== undefined && { 'apns-collapse-id': collapseId }),
  };
}

function previewsOf(payload: PushPayload, app: AppPackage, wanted: readonly string[]): PayloadPreview[] {
  const locales = wanted.length > 0 ? wanted : ['default', ...app.locales];
  return locales.map((locale) => previewPayload(payload, locale, (key) => textFor(app.texts, key, locale)));
}

type Answered = Pick<PushSender, 'service'> & { answered: PushAnswered };

interface Sent {
  answered?: Answered;
  phone?: MessageOnDevice;
}

interface Message {
  payload: PushPayload;
  body: Uint8Array;
  headers: Record<string, string>;
}

async function sendIt(
  { body, headers, payload }: Message,
  environment: PushEnvironment,
  options: PayloadOptions,
  io: Io,
): Promise<Sent> {
  const token =
    options.token ??
    (options.tokenFile &&
      new TextDecoder().decode(await readPayloadBytes(inCwd(io, options.tokenFile))).trim());
  const sender = await senderFor(inCwd(io, options.send!));
  try {
    const { service } = sender;
    const { form } = payload;
    if ((service === 'messages') !== (form === 'android'))
      throw new UsageError(
        `--send ${options.send}: it sends to ${service === 'messages' ? 'Android' : 'iOS'}, and the message is for ${form === 'android' ? 'Android' : 'iOS'}`,
      );
    if (!sender.environments.includes(environment))
      throw new UsageError(`--environment ${environment}: ${options.send} names no second project`);
    const send = (to: string) => sender.send({ environment, token: to, headers, body });
    if (!options.device) return { answered: { service, answered: await send(token!) } };
    return { phone: await tryOnDevice(options, { payload, token, send }, io) };
  } finally {
    sender.close();
  }
}

/** The worst first. */
function codeOf({ answered, phone }: Sent): ExitCode {
  if (answered && answered.answered.status !== 200) return exitCode.blocked;
  if (phone?.outcomes.includes('failed')) return exitCode.blocked;
  return phone?.outcomes.includes('cantTell') ? exitCode.open : exitCode.done;
}

function formatAnswer(
  { answered: { id, reason = '', status }, service }: Answered,
  environment: string,
): string {
  const who = service === 'messages' ? 'messaging service' : `${environment} gateway`;
  if (status === 200) return `\n■ The ${who} took it (${id})\n`;
  const { why, word } = formatRefusal(status, reason);
  return `\n▲ The ${who} refused it: ${word}\n  ${why}\n`;
}
