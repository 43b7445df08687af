import { compilePiece, DEMO_SHOW, validatePiece, makePiece } from '@vast-swarm/core';
import { CpuEngine } from '@vast-swarm/cpu';
const engine = await CpuEngine.create({ threads: 2 });
const only = process.argv[2];
for (const { piece } of (DEMO_SHOW as any).pieces) {
  if (only && !piece.name.includes(only)) continue;
  const p = structuredClone(piece); p.frame.loop = true; p.frame.length = Math.min(p.frame.length, 120);
  p.density = Math.min(p.density, 0.3);
  const plan = compilePiece(p);
  engine.setPlan(plan); engine.reset();
  const N = p.frame.length; const frames=[0, 60]; const pics = new Map<number, Uint8ClampedArray>();
  const t=performance.now();
  while (engine.frame < 60 + N) { await engine.ready(); engine.step();
    if (plan.finish.remembers && engine.frame >= -plan.runIn || frames.includes(engine.frame) || frames.includes(engine.frame - N) || engine.frame===N-1) { pics.set(engine.frame, engine.draw(320,180).pixels); } }
  const diff=(a:number,b:number)=>{let m=0,s=0;const x=pics.get(a)!,y=pics.get(b)!;for(let i=0;i<x.length;i++){const d=Math.abs(x[i]!-y[i]!);m=Math.max(m,d);s+=d}return `${m}/${(s/x.length).toFixed(3)}`};
  console.log(piece.name.padEnd(22), 'preroll', plan.frame.preroll, '0:', diff(0,N), '60:', diff(60,60+N), 'seam', diff(N-1,0), 'move', diff(N-1, 60), plan.notices.map(n=>n.message.slice(0,60)), Math.round(performance.now()-t));
}
engine.close(); process.exit(0);
