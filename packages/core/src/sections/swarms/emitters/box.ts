import { Vec3, type Expr } from '@vast-swarm/kernel';
import { choice, vector } from '../../../language/dials';
import { emitter } from '../../define';
import { boxLines, plainVector } from '../../outlines';

export const box = emitter({
  kind: 'box',
  title: 'Box',
  help: 'Particles start inside a box or on its faces.',
  icon: 'M4 8l8-4l8 4v8l-8 4l-8-4zM4 8l8 4l8-4M12 12v8',
  dials: {
    size: vector('Edges', [2, 2, 2], 1000, 'm', 'Their lengths along x, y and z.'),
    fill: choice(
      'From',
      'inside',
      { inside: 'The inside', surface: 'The faces', edges: 'The edges' },
      'Evenly by volume, by area or by length.',
    ),
  },
  outline: ({ size }) => boxLines(plainVector(size) ?? [1, 1, 1]),
  build(dial) {
    const g = dial.graph;
    const size = dial.vector('size');
    const spot = new Vec3(
      dial.random('x').sub(0.5),
      dial.random('y').sub(0.5),
      dial.random('z').sub(0.5),
    );
    // A face pair is picked by its area, then the face of the pair.
    const areas = [size.y.mul(size.z), size.z.mul(size.x), size.x.mul(size.y)].map((a) => a.abs());
    const total = areas[0]!.add(areas[1]!).add(areas[2]!).max(1e-12);
    const pick = dial.random('face').mul(total);
    const side = dial.random('side').lt(0.5).select(g.float(-1), g.float(1));
    const onX = pick.lt(areas[0]!);
    const onY = onX.not().and(pick.lt(areas[0]!.add(areas[1]!)));
    const onZ = onX.or(onY).not();
    const out = (on: Expr): Expr => on.select(side, g.float(0));
    const normal = new Vec3(out(onX), out(onY), out(onZ));
    if (dial.choice('fill') === 'inside') return { position: spot.mul(size), normal };
    if (dial.choice('fill') === 'edges') {
      // One axis runs along the edge, picked by its length; the others stand at one of their ends.
      const all = size.parts.map((e) => e.abs());
      const along = dial.random('edge').mul(all[0]!.add(all[1]!).add(all[2]!));
      const first = along.lt(all[0]!);
      const second = first.not().and(along.lt(all[0]!.add(all[1]!)));
      const runs = [first, second, first.or(second).not()];
      const half = (i: number): Expr =>
        dial
          .random(`end${String(i)}`)
          .lt(0.5)
          .select(g.float(-0.5), g.float(0.5));
      const part = (i: number): Expr => runs[i]!.select(spot.parts[i]!, half(i));
      const edge = new Vec3(part(0), part(1), part(2));
      const out = (i: number): Expr => runs[i]!.select(g.float(0), half(i));
      return { position: edge.mul(size), normal: new Vec3(out(0), out(1), out(2)).unit() };
    }
    const face = new Vec3(
      onX.select(side.mul(0.5), spot.x),
      onY.select(side.mul(0.5), spot.y),
      onZ.select(side.mul(0.5), spot.z),
    );
    return { position: face.mul(size), normal };
  },
});
