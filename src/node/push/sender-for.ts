/** Who sends: the gateway of iOS or the messaging service of Android, by what a file names. */
import { z } from 'zod';
import { readYaml } from '../read-yaml.ts';
import { readGatewayFile } from './gateway-file.ts';
import { readMessageServiceFile } from './message-service-file.ts';
import { messageSender } from './send-message.ts';
import { type PushSender, pushSender } from './send-push.ts';

const kindSchema = z.looseObject({ fenlok: z.enum(['push-gateway/1', 'message-service/1']) });

/**
 * @param file as `fenlok standin push --connection` or `fenlok standin messages --connection` wrote it, or of a real service
 * @throws UnreadableError where the file, or a key in it, cannot be read
 */
export async function senderFor(file: string): Promise<PushSender> {
  const { value } = await readYaml(file, kindSchema);
  return value.fenlok === 'push-gateway/1'
    ? pushSender(await readGatewayFile(file))
    : messageSender(await readMessageServiceFile(file));
}
