import { compilePiece, parsePiece } from '@vast-swarm/core';
import { CpuEngine, encodePng } from '@vast-swarm/cpu';
import { readFileSync, writeFileSync } from 'node:fs';
async function main(): Promise<void> {
  const [file, frames, out] = process.argv.slice(2) as [string, string, string];
  const piece = parsePiece(readFileSync(file, 'utf8'));
  const engine = await CpuEngine.create({ threads: 2 });
  engine.setPlan(compilePiece(piece));
  if (process.argv[5]) {
    const media = (engine as any).media; const run = media.runPass.bind(media); const leave = media.leave.bind(media);
    const by = new Map<any, any>(); (globalThis as any).by = by;
    const add = (k: any, names: string, t: number) => { const e = by.get(k) ?? { t: 0, n: 0, names }; e.t += performance.now() - t; e.n++; by.set(k, e); };
    media.leave = (...a: any[]) => { const t = performance.now(); leave(...a); add('leave', 'leave', t); };
    media.runPass = (m: any, pass: any, inputs: any) => { const t = performance.now(); run(m, pass, inputs); const k = pass.kernel; add(k, k.graph.stores.map((s: any) => k.graph.buffers[s.buffer].name).join().slice(0, 50), t); };
  }
  const wanted = frames.split(',').map(Number);
  const t0 = performance.now(); let n = 0;
  while (wanted.length > 0) {
    await engine.ready(); engine.step(); n++;
    if (engine.frame === wanted[0]) {
      const t = (performance.now() - t0) / n;
      const f = engine.draw(960, 540, 1);
      console.log(engine.frame, t.toFixed(1), 'ms a step', engine.times, piece.swarms.map((s) => s.id));
      writeFileSync(`${out}${String(engine.frame)}.png`, encodePng(f));
      wanted.shift();
    }
  }
  if (process.argv[5]) for (const e of (globalThis as any).by.values()) console.log((e.t / n).toFixed(2), 'ms', (e.n / n).toFixed(0), 'runs', e.names);
  engine.close();
}
void main();
