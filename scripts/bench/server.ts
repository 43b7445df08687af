import { spawn, type ChildProcess } from 'node:child_process';

/** The built application on free ports: its address, and its port for Open Sound Control. */
export async function startServer(): Promise<{ host: string; udp: number; child: ChildProcess }> {
  const child = spawn(
    process.execPath,
    ['packages/server/bin/vast-swarm.mjs', 'serve', '--port', '0'],
    { stdio: 'pipe' },
  );
  const [host, udp] = await new Promise<[string, string]>((resolve) => {
    let told = '';
    child.stdout.on('data', (data: Buffer) => {
      told += data.toString();
      const found = /http:\/\/(\S+)[^]*udp:\/\/127\.0\.0\.1:(\d+)/.exec(told);
      if (found) resolve([found[1]!, found[2]!]);
    });
  });
  return { host, udp: Number(udp), child };
}
