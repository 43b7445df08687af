import { mix, Vec3, type Expr } from '@vast-swarm/kernel';
import { sharedDials } from '../../language/dialReader';
import type { PartReader } from '../../language/partReader';
import { brushedFlow, DEEP, GRID, spaceFlow } from '../../stock/places/brush';
import type { Strokes } from '../../feeds/feeds';
import { choice, number, stockDial } from '../../language/dials';
import { carries, flowDials, flowEffect } from './flow';
import { planeDials, planePlace, readGrid } from './plane';
import { force } from '../define';
import { drawnSize, frontLine } from '../outlines';

/** Reads the strokes on a surface as they reach into space; outside their block there is nothing. */
function flowInSpace(reader: PartReader, strokes: Strokes, position: Vec3): Vec3 | null {
  const dial = sharedDials(reader, planeDials);
  const flow = spaceFlow(strokes);
  if (!flow) return null;
  const g = dial.graph;
  const local = position.sub(dial.vector('centre'));
  const places = local.parts.map((p, i) => {
    const origin = dial.constant(`origin${String(i)}`, flow.origin[i]!);
    const inverse = dial.constant(`step${String(i)}`, 1 / Math.max(1e-9, flow.step[i]!));
    const at = p.sub(origin).mul(inverse);
    const inside = at.clamp(0, DEEP - 1.001);
    return { low: inside.floor(), t: inside.sub(inside.floor()), over: at.sub(inside).abs() };
  });
  const [x, y, z] = places as [(typeof places)[0], (typeof places)[0], (typeof places)[0]];
  const corner = z.low.mul(DEEP).add(y.low).mul(DEEP).add(x.low).toInt();
  const read = (axis: number): Expr => {
    const value = (at: number): Expr => dial.block(flow.values[axis]!, corner.add(at));
    const row = (at: number): Expr => mix(value(at), value(at + 1), x.t);
    const face = (at: number): Expr => mix(row(at), row(at + DEEP), y.t);
    return mix(face(0), face(DEEP * DEEP), z.t);
  };
  const beyond = x.over.max(y.over).max(z.over).gt(1e-2);
  const part = (axis: number): Expr => beyond.select(g.float(0), read(axis));
  return new Vec3(part(0), part(1), part(2));
}

export const brushed = force({
  kind: 'brushed',
  title: 'Painted flow',
  help: 'Directions brushed by hand over a plane or the surface of a mesh.',
  icon: 'M3 17c4-1 5-6 9-6s5 3 9 1M17 8l4 4l-4 3M5 8c2-2 4-2 6-1',
  dials: {
    strokes: {
      type: 'strokes' as const,
      title: 'Strokes',
      help: 'Brush in the picture; the newest lies on top.',
      group: 'Dials',
      default: [] as [],
    },
    speed: number('Speed', 1, [-1000, 1000], 'Of a stroke of strength 1.', {
      unit: 'm/s',
      varies: 'life',
    }),
    over: choice(
      'Over',
      'plane',
      { plane: 'A plane', surface: 'The surface of a mesh' },
      'What the brush is drawn over.',
    ),
    mesh: {
      ...stockDial('Mesh', ['mesh'], 'The mesh, about the centre.'),
      when: { dial: 'over', is: ['surface'] },
    },
    ...planeDials,
    ...flowDials('push'),
  },
  carries,
  outline: ({ width, height }) => [frontLine(drawnSize(width), drawnSize(height))],
  build(dial, { position, step }) {
    const strokes = dial.raw('strokes');
    if (strokes.length === 0) return {};
    if (dial.choice('over') === 'surface') {
      const flow = flowInSpace(dial, strokes, position);
      return flow ? flowEffect(dial, flow.scale(dial.number('speed')), step) : {};
    }
    const grid = brushedFlow(strokes);
    const { u, v, across, up, inside } = planePlace(dial, position);
    const read = (values: Float32Array) => readGrid(dial, values, GRID, GRID, u, v);
    const weight = dial.number('speed').mul(inside);
    const [x, y] = [read(grid.x).mul(weight), read(grid.y).mul(weight)];
    const flow = new Vec3(
      across.x.mul(x).add(up.x.mul(y)),
      across.y.mul(x).add(up.y.mul(y)),
      across.z.mul(x).add(up.z.mul(y)),
    );
    return flowEffect(dial, flow, step);
  },
});
