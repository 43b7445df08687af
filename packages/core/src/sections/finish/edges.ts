import { Vec3, type Expr } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { treatment } from '../define';

/**
 * Strength of edges in each channel from eight places around: I. Sobel and G. Feldman's operator
 * (1968), so that a step of 1 gives 1.
 */
export function edgesAt(at: (dx: number, dy: number) => Vec3): Vec3 {
  const [nw, n, ne] = [at(-1, -1), at(0, -1), at(1, -1)];
  const [w, e] = [at(-1, 0), at(1, 0)];
  const [sw, s, se] = [at(-1, 1), at(0, 1), at(1, 1)];
  const sum = (a: Vec3, b: Vec3, c: Vec3): Vec3 => a.add(b.scale(2)).add(c);
  const across = sum(ne, e, se)
    .sub(sum(nw, w, sw))
    .scale(1 / 4);
  const down = sum(sw, s, se)
    .sub(sum(nw, n, ne))
    .scale(1 / 4);
  const size = (k: 'x' | 'y' | 'z'): Expr =>
    across[k].mul(across[k]).add(down[k].mul(down[k])).sqrt();
  return new Vec3(size('x'), size('y'), size('z'));
}

export const edges = treatment({
  type: 'around',
  kind: 'edges',
  title: 'Edge tracing',
  help: 'Only where light changes is there light.',
  icon: 'M5 5h14v14H5zM9 9h6v6H9z',
  dials: {
    strength: number('Strength', 2, [0, 100], 'Multiplies the edges.', { drag: 'log' }),
    width: number('Width', 1.5, [0.5, 20], 'In pixels of a frame of 1080 lines.', { drag: 'log' }),
  },
  build({ dial, pixel }) {
    const step = dial.number('width').mul(pixel.height).div(1080).max(1);
    const at = (dx: number, dy: number): Vec3 =>
      pixel.nearest(pixel.x.add(step.mul(dx)), pixel.y.add(step.mul(dy)));
    return edgesAt(at).scale(dial.number('strength'));
  },
});
