import { Vec3, type Expr } from '@vast-swarm/kernel';
import { divide } from '../../../language/divide';
import { number, vector } from '../../../language/dials';
import { orderDial, placeNumber } from './order';
import { emitter } from '../../define';
import { boxLines, plainVector } from '../../outlines';

/** Numbers of places that single precision counts exactly. */
const MOST = 2 ** 24;

export const lattice = emitter({
  kind: 'lattice',
  title: 'Lattice',
  help: 'Particles start in rows, columns and layers.',
  icon: 'M4 5h.01M12 5h.01M20 5h.01M4 12h.01M12 12h.01M20 12h.01M4 19h.01M12 19h.01M20 19h.01',
  dials: {
    columns: number('Columns', 10, [1, 10_000], 'Along x.', { whole: true }),
    rows: number('Rows', 10, [1, 10_000], 'Along y.', { whole: true }),
    layers: number('Layers', 10, [1, 10_000], 'Along z.', { whole: true }),
    spacing: vector('Spacing', [0.2, 0.2, 0.2], 1000, 'm', 'From one place to the next.'),
    order: orderDial('numbered'),
  },
  shownWhole: true,
  places: ({ columns, rows, layers, spacing }) => ({
    count: Math.min(columns * rows * layers, MOST),
    spacing() {
      const counts = [columns, rows, layers];
      const ways = (plainVector(spacing) ?? [1, 1, 1]).map((s, i) => (counts[i]! > 1 ? s : 0));
      return Math.min(...ways.map(Math.abs).filter((s) => s > 0), Infinity);
    },
    coloured: false,
  }),
  outline: ({ spacing, columns, rows, layers }) => {
    const [x, y, z] = plainVector(spacing) ?? [1, 1, 1];
    return boxLines([x * (columns - 1), y * (rows - 1), z * (layers - 1)]);
  },
  build(dial) {
    const g = dial.graph;
    const [nx, ny, nz] = [dial.whole('columns'), dial.whole('rows'), dial.whole('layers')];
    const total = dial.plain('columns') * dial.plain('rows') * dial.plain('layers');
    const number = placeNumber(dial, Math.min(total, MOST));
    const first = divide(number, nx);
    const second = divide(first.quotient, ny);
    const middle = (i: Vec3['x'], n: Vec3['x']): Vec3['x'] =>
      i.toFloat().sub(n.toFloat().sub(1).mul(0.5));
    const cell = new Vec3(
      middle(first.rest, nx),
      middle(second.rest, ny),
      middle(second.quotient, nz),
    );
    const position = cell.mul(dial.vector('spacing'));
    const far = position.dot(position).gt(1e-12);
    const up = new Vec3(g.float(0), g.float(1), g.float(0));
    const part = (i: Expr, n: Expr): Expr => i.toFloat().add(0.5).div(n.toFloat());
    const surface = [part(first.rest, nx), g.float(1).sub(part(second.rest, ny))] as const;
    return { position, normal: Vec3.select(far, position.unit(), up), surface };
  },
});
