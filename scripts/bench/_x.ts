import { compilePiece, makePart, makePiece, makeSwarm } from '@vast-swarm/core';
import { CpuEngine } from '@vast-swarm/cpu';

async function main(): Promise<void> {
  for (const edges of (process.argv[2] ?? 'wrap,closed,open').split(',')) {
  const piece = makePiece('x');
  piece.media = [makePart('media', 'fluid', [])];
  Object.assign(piece.media[0]!.dials, { fills: 'plane', width: 2 * Math.PI, aspect: 1, lines: 256, edges, swirl: 0, slowing: 0, fading: 0, thickness: 0.0 });
  piece.frame.rate = 60;
  const engine = await CpuEngine.create({ threads: Number(process.argv[4] ?? 2) });
  const plan = compilePiece(piece);
  engine.setPlan(plan);
  const { space } = plan.media[0]!;
  const u = engine.medium('fluid', 'u'), v = engine.medium('fluid', 'v');
  const h = (2 * Math.PI) / space.lines;
  for (let j = 1; j <= space.lines + 1; j++) for (let i = 1; i <= space.columns + 1; i++) {
    const x = (i - 0.5) * h, y = (j - 0.5) * h;
    u[j * space.stride + i] = Math.sin(x - h / 2) * Math.cos(y);
    v[j * space.stride + i] = -Math.cos(x) * Math.sin(y - h / 2);
  }
  const u0 = u.slice();
  if (process.argv[3]) {
    const media = (engine as any).media; const run = media.runPass.bind(media);
    const by = new Map<any, any>(); (globalThis as any).by = by;
    media.runPass = (m: any, pass: any, inputs: any) => { const t = performance.now(); run(m, pass, inputs); const k = pass.kernel.graph.stores.length < 3 ? pass.end + ' ' + pass.kernel.graph.stores.map((s: any) => pass.kernel.graph.buffers[s.buffer].name).join() + pass.kernel.graph.buffers.length : pass.kernel; const e = by.get(k) ?? { t: 0, n: 0, names: (typeof k === 'string' ? k : '') + pass.kernel.graph.stores.map((s: any) => pass.kernel.graph.buffers[s.buffer].name).join().slice(0, 50) }; e.t += performance.now() - t; e.n++; by.set(k, e); };
  }
  const t0 = performance.now();
  for (let k = 1; k <= 100; k++) {
    engine.step();
    if (k % 25 === 0 || k === 1) {
      let err = 0, norm = 0, div = 0, grad = 0;
      for (let j = 1; j <= space.lines; j++) for (let i = 1; i <= space.columns; i++) {
        const l = j * space.stride + i;
        err += (u[l]! - u0[l]!) ** 2; norm += u0[l]! ** 2;
        const a = u[l + 1]! - u[l]!, b = v[l + space.stride]! - v[l]!;
        div += (a + b) ** 2; grad += a * a + b * b;
      }
      console.log(edges, k, 'err', Math.sqrt(err / norm).toFixed(5), 'div', Math.sqrt(div / grad).toExponential(2));
    }
  }
  console.log((performance.now() - t0) / 100, 'ms a step', space.columns, space.lines);
  if (process.argv[3]) for (const e of (globalThis as any).by.values()) console.log((e.t / 100).toFixed(2), 'ms', e.n / 100, 'runs', e.names);
  engine.close();
  }
}
void main();
