/** The platform's settings: three namespaces of keys and values. A key that was never written has no value. */
export const namespaces = ['system', 'global', 'secure'] as const;
export type Namespace = (typeof namespaces)[number];

const AS_SHIPPED: Record<Namespace, Record<string, string>> = {
  system: { accelerometer_rotation: '1', user_rotation: '0', screen_off_timeout: '60000' },
  global: {
    animator_duration_scale: '1.0',
    transition_animation_scale: '1.0',
    window_animation_scale: '1.0',
    adb_enabled: '1',
    wifi_on: '1',
    mobile_data: '1',
    airplane_mode_on: '0',
    low_power: '0',
    device_provisioned: '1',
  },
  secure: { location_mode: '3', accessibility_enabled: '0' },
};

export class SettingsTable {
  #values = new Map<string, string>();
  #onChange: (namespace: Namespace, key: string) => void;

  constructor(onChange: (namespace: Namespace, key: string) => void) {
    this.#onChange = onChange;
    for (const namespace of namespaces)
      for (const [key, value] of Object.entries(AS_SHIPPED[namespace]))
        this.#values.set(`${namespace}/${key}`, value);
  }

  get = (namespace: Namespace, key: string): string | undefined => this.#values.get(`${namespace}/${key}`);

  put(namespace: Namespace, key: string, value: string): void {
    this.#values.set(`${namespace}/${key}`, value);
    this.#onChange(namespace, key);
  }

  delete(namespace: Namespace, key: string): boolean {
    const was = this.#values.delete(`${namespace}/${key}`);
    if (was) this.#onChange(namespace, key);
    return was;
  }

  list(namespace: Namespace): [key: string, value: string][] {
    return [...this.#values]
      .filter(([name]) => name.startsWith(`${namespace}/`))
      .map(([name, value]): [string, string] => [name.slice(namespace.length + 1), value])
      .sort(([a], [b]) => (a < b ? -1 : 1));
  }
}
