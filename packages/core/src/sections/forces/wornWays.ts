import { exp, Vec3, type Expr } from '@vast-swarm/kernel';
import { number, swarmDial, vector } from '../../language/dials';
import { force } from '../define';

const group = 'Cells';

/** How many particles lately went through a cell for its ways to be felt by half. */
const HALF = 1;
/** How much the ways of a cell are felt, 0 to 1, by how many went through it. */
const worn = (count: Expr): Expr => count.div(count.add(HALF));

export const wornWays = force({
  kind: 'wornWays',
  title: 'Worn ways',
  help: 'Where many have gone lately, others go the same way; or keep out of it.',
  icon: 'M4 20c2-6 8-4 8-9s5-4 8-8M8 21c2-5 8-4 8-9s3-4 5-6',
  dials: {
    along: number('Along', 2, [0, 1000], 'How soon a particle goes as those before it went.', {
      unit: '1/s',
      varies: 'life',
    }),
    draw: number('Draw', 0, [-1000, 1000], 'Towards the worn ways; below 0 away from them.', {
      unit: 'm/s²',
      varies: 'life',
    }),
    fade: number('Fades in', 2, [0.01, 600], 'How long a way is remembered.', {
      unit: 's',
      drag: 'log',
    }),
    swarm: swarmDial('Whose ways are felt.', { none: 'All swarms' }),
    centre: vector('Middle', [0, 0, 0], 1000, 'm', 'Middle of the box of cells.', {
      grasp: 'place',
      group,
    }),
    size: number('Width', 8, [0.01, 1000], 'Each side of the box.', {
      unit: 'm',
      drag: 'log',
      group,
    }),
    cells: number('Cells', 24, [4, 64], 'How many along each side.', { whole: true, group }),
  },
  field: {
    cells: ({ cells }) => [cells, cells, cells],
    from: ({ swarm }) => swarm,
    box(dial) {
      const size = dial.number('size');
      return { centre: dial.vector('centre'), size: new Vec3(size, size, size) };
    },
    gathers: ['count', 'x', 'y', 'z'],
    leaves: ({ velocity: { x, y, z } }) => ({ count: x.graph.float(1), x, y, z }),
    keeps: ['count', 'x', 'y', 'z'],
    step(dial, { step, kept, left }) {
      // A cell settles at what is left in it from frame to frame.
      const share = exp(step.div(dial.number('fade')).neg());
      const next = (name: string) => left(name).add(kept(name).sub(left(name)).mul(share));
      return { count: next('count'), x: next('x'), y: next('y'), z: next('z') };
    },
  },
  build(dial, { position, field }) {
    const cells = field();
    const count = cells.at('count', position);
    const sum = new Vec3(cells.at('x', position), cells.at('y', position), cells.at('z', position));
    const felt = worn(count);
    const rate = dial.number('along').mul(felt);
    // A drag against what moves: towards the mean velocity, never past it.
    const push = sum.scale(rate.div(count.max(1e-6)));
    if (dial.raw('draw') === 0) return { push, drag: rate };
    const { x, y, z } = position;
    const [i, j, k] = cells.side.scale(0.5).parts;
    const at = (px: Expr, py: Expr, pz: Expr): Expr =>
      worn(cells.at('count', new Vec3(px, py, pz)));
    // How much more it is worn from one side of the particle to the other.
    const rise = new Vec3(
      at(x.add(i), y, z).sub(at(x.sub(i), y, z)),
      at(x, y.add(j), z).sub(at(x, y.sub(j), z)),
      at(x, y, z.add(k)).sub(at(x, y, z.sub(k))),
    );
    return { push: push.add(rise.scale(dial.number('draw'))), drag: rate };
  },
});
