import { readYaml } from '../../../node/read-yaml.ts';
import { writeSecret } from '../../../node/write-secret.ts';
import type { AddCommand } from '../../command-table.ts';
import { UsageError } from '../../io.ts';
import { inCwd, renamedOption } from '../options.ts';
import { portOf } from './port-of.ts';
import { untilStopped } from './until-stopped.ts';

interface AdsCall {
  networks: string;
  connection?: string;
  mode: string[];
  port: string;
  log?: boolean;
  json?: boolean;
}

/** `fenlok standin ads`. */
export const adsCommand: AddCommand = (command, { io }) => {
  renamedOption(renamedOption(command, '--write', '--connection'), '--mood', '--mode')
    .requiredOption('--networks <file>', 'which networks, and the placements that each knows')
    .option('--connection <file>', 'write their address and secret there, for --ads')
    .option(
      '--mode <network=mode...>',
      'fill, no-fill, slow, malformed, live (though a test ad was asked for), huge or drop',
      [],
    )
    .option('--port <number>', 'TCP port on loopback; 0 takes a free one', '0')
    .option('--log', 'print each request with its answer')
    .option('--json', 'print the address as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok standin ads --networks ad-exchange.yaml --connection test-ads.json\n  fenlok standin phone --package app.apk --ads test-ads.json\n  fenlok drill ads --device 127.0.0.1:PORT --ads test-ads.json',
    )
    .action(async (call: AdsCall) => {
      const { exchangeSchema, responseModes } = await import('../../../standins/ads/exchange.ts');
      const { serveAds } = await import('../../../standins/ads/serve-ads.ts');
      const { value: setup } = await readYaml(inCwd(io, call.networks), exchangeSchema);
      const wanted = call.mode.map((text) => {
        const [network = '', name] = text.split('=');
        const mode = responseModes.find((one) => one === name);
        if (!mode || !setup.networks.some(({ id }) => id === network))
          throw new UsageError(
            `--mode ${text}: say NETWORK=MODE with ${setup.networks.map(({ id }) => id).join(', ')} and ${responseModes.join(', ')}`,
          );
        return { network, mode };
      });
      const served = await serveAds({
        setup,
        port: portOf(call.port),
        onRequest: (did, status) => {
          if (call.log) io.err(`${did}  ${status}\n`);
        },
      });
      try {
        for (const { mode, network } of wanted) served.exchange.setMode(network, mode);
        const { ads, networks } = served.address;
        if (call.connection) {
          const file = { fenlok: 'test-ads/1', ...served.address };
          await writeSecret(inCwd(io, call.connection), `${JSON.stringify(file, null, 2)}\n`);
        }
        io.out(
          call.json
            ? `${JSON.stringify({ ads })}\n`
            : `The networks ${networks.join(', ')} answer at ${ads}.${call.connection ? ` Phones and drills find them by  --ads ${call.connection}` : ''}\n`,
        );
        await untilStopped(io);
      } finally {
        await served.close();
      }
    });
};
