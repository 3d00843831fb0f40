/**
 * Lists of configurations, each held once: most resources of a type come in the same ones. Two resources with the same
 * list give the same array, so that what was found out about one holds for all.
 */
import type { ResourceConfig } from '../../platform/android/resource-config.ts';

export class ConfigList {
  private readonly before: ConfigList | undefined;
  private readonly last: ResourceConfig | undefined;
  // nearly always one and the same comes next
  private next: ConfigList | undefined;
  private others: Map<ResourceConfig, ConfigList> | undefined;
  private all: readonly ResourceConfig[] | undefined;

  constructor(before?: ConfigList, last?: ResourceConfig) {
    this.before = before;
    this.last = last;
  }

  /** The list with one more at its end. */
  with(config: ResourceConfig): ConfigList {
    if (this.next?.last === config) return this.next;
    let list = this.others?.get(config);
    if (!list) {
      list = new ConfigList(this, config);
      this.others ??= new Map();
      this.others.set(config, list);
    }
    this.next = list;
    return list;
  }

  configs(): readonly ResourceConfig[] {
    this.all ??= this.walk();
    return this.all;
  }

  private walk(): ResourceConfig[] {
    const all: ResourceConfig[] = [];
    for (let list: ConfigList | undefined = this; list?.last; list = list.before) all.push(list.last);
    return all.reverse();
  }
}
