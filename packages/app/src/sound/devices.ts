/** An input or an output of the machine. */
export interface Device {
  id: string;
  name: string;
}

/** Those that can be chosen; the browser tells their names once it lets an input be heard. */
export async function devicesOf(kind: 'audioinput' | 'audiooutput'): Promise<Device[]> {
  const all = await navigator.mediaDevices.enumerateDevices().catch(() => []);
  const title = kind === 'audioinput' ? 'Input' : 'Output';
  return all
    .filter((d) => d.kind === kind && d.deviceId && d.deviceId !== 'default')
    .map(({ deviceId, label }, i) => ({
      id: deviceId,
      name: label || `${title} ${String(i + 1)}`,
    }));
}
