import { compilePiece, parsePiece } from '@vast-swarm/core';
import { CpuEngine, encodePng } from '@vast-swarm/cpu';
import { readFileSync, writeFileSync } from 'node:fs';
async function main(): Promise<void> {
  const [file, frames, out] = process.argv.slice(2) as [string, string, string];
  const piece = parsePiece(readFileSync(file, 'utf8'));
  const engine = await CpuEngine.create({ threads: 2 });
  engine.setPlan(compilePiece(piece));
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
  engine.close();
}
void main();
