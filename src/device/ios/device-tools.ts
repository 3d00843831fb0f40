/** What the programs of a team do for one iOS device, by their names in `ios.commands`. */
import type { IosCommands } from '../../core/model/intent-parts.ts';
import type { DeviceTools, Setting } from '../device.ts';
import { isLoopback } from '../is-loopback.ts';
import { OutOfReach, Refused } from '../out-of-reach.ts';
import { runTool } from './run-tool.ts';

const NO_INSTALL =
  'a UI test installs and removes nothing: give the commands of your own tools that do, install and uninstall under ios.commands in fenlok.yaml';
const NO_NETWORK =
  'a UI test cannot cut the network: give the commands of your own tools that do, networkOff, networkOn and isOnline under ios.commands in fenlok.yaml';

const OVER_NETWORK =
  'the lookout is reached over the network, and would be cut off with it: forward its port over a cable';

/** Settings go back in that time also where the call is being ended. */
const NETWORK_MS = 30_000;

interface ToolsOf {
  serial: string;
  /** As the lookout calls the device, and where it is. */
  id: string;
  address: string;
}

export class IosTools {
  readonly #of: ToolsOf;
  #given: DeviceTools = { commands: {} };

  constructor(of: ToolsOf) {
    this.#of = of;
  }

  give(tools: DeviceTools): void {
    this.#given = tools;
  }

  /** Why there is no fresh installation; nothing where there is. */
  whyNoInstall = (): string | undefined => (this.#has('install', 'uninstall') ? undefined : NO_INSTALL);
  whyNoNetwork = (): string | undefined => {
    if (!this.#has('networkOff', 'networkOn', 'isOnline')) return NO_NETWORK;
    return isLoopback(this.#of.address) ? undefined : OVER_NETWORK;
  };
  #has = (...names: (keyof IosCommands)[]): boolean => names.every((name) => this.#given.commands[name]);

  /** The package of the dossier. @returns why it cannot */
  async install(): Promise<string | undefined> {
    if (!this.#has('install')) return NO_INSTALL;
    await this.#run('install', { signal: this.#given.signal });
    return undefined;
  }

  async uninstall(appId: string): Promise<void> {
    if (!this.#has('uninstall')) throw new OutOfReach('refused', `${this.#of.serial}: ${NO_INSTALL}`);
    await this.#run('uninstall', { app: appId, signal: this.#given.signal });
  }

  /** `on` or `off`; whatever hinders it holds up no other setting. */
  network: Setting = {
    read: () =>
      this.#orRefused('isOnline', async () => {
        const said = await this.#run('isOnline', { timeoutMs: NETWORK_MS });
        if (said !== 'online' && said !== 'offline')
          throw new OutOfReach(
            'refused',
            `isOnline printed neither online nor offline, but "${said.slice(0, 80)}"`,
          );
        return said === 'online' ? 'on' : 'off';
      }),
    write: (value) => {
      const name = value === 'off' ? 'networkOff' : 'networkOn';
      return this.#orRefused(name, async () => {
        await this.#run(name, { timeoutMs: NETWORK_MS });
      });
    },
  };

  async #orRefused<T>(name: keyof IosCommands, work: () => Promise<T>): Promise<T> {
    const { serial } = this.#of;
    const refused = (said: string) => new Refused(serial, `ios.commands.${name}`, { code: 1, said });
    if (!this.#has(name)) throw refused(NO_NETWORK);
    try {
      return await work();
    } catch (error) {
      throw error instanceof OutOfReach ? refused(error.message) : error;
    }
  }

  #run(
    name: keyof IosCommands,
    { app, ...how }: { app?: string; signal?: AbortSignal | undefined; timeoutMs?: number },
  ): Promise<string> {
    const { appId, commands, packageFile } = this.#given;
    return runTool(`ios.commands.${name}`, commands[name]!, {
      words: { app: app ?? appId, package: packageFile, device: this.#of.id, address: this.#of.address },
      ...how,
    });
  }
}
