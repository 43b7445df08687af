import { madeTitle } from '@vast-swarm/core/stock';

/** An input or an output of the machine. */
export interface Device {
  id: string;
  name: string;
}

export type DeviceKind = 'audioinput' | 'audiooutput' | 'videoinput';
const TITLES = { audioinput: 'Input', audiooutput: 'Output', videoinput: 'Camera' } as const;

/** Those that can be chosen; the browser tells their names once it lets an input be used. */
export async function devicesOf(kind: DeviceKind): Promise<Device[]> {
  const all = await navigator.mediaDevices.enumerateDevices().catch(() => []);
  return all
    .filter((d) => d.kind === kind && d.deviceId && d.deviceId !== 'default')
    .map(({ deviceId, label }, i) => ({
      id: deviceId,
      name: label || `${TITLES[kind]} ${String(i + 1)}`,
    }));
}

const PREFIX = 'stand-in:';

/** Stand-ins of our own for a device, by names in the stock: chosen as devices are. */
export function standIns(names: readonly string[]): Device[] {
  return names.map((name) => ({ id: PREFIX + name, name: `Stand-in: ${madeTitle(name)}` }));
}

/** The stand-in for a device, by its name in the stock; null where it is a real one. */
export function standInOf(device: string): string | null {
  return device.startsWith(PREFIX) ? device.slice(PREFIX.length) : null;
}
