import { fieldOf } from '../../stock/places/distanceField';
import { number, stockDial } from '../../language/dials';
import { fieldAt } from './fieldAt';
import { triangleTree } from '../../stock/places/triangleTree';
import { collider } from '../define';
import { meetTriangles } from './meetTriangles';

/** Half the thickness of a surface without any, in lengths of the mesh's own frame. */
const SKIN = 1e-6;

export const mesh = collider({
  kind: 'mesh',
  title: 'Mesh',
  help: 'Any mesh: closed ones have an inside, open ones are sheets.',
  icon: 'M12 3l8 5v8l-8 5l-8-5V8zM4 8l8 5l8-5M12 13v8',
  dials: {
    mesh: stockDial('Mesh', ['mesh'], 'From a file, or one of those made by code.'),
    size: number('Size', 1, [0.0001, 10_000], 'Scale of the mesh.', { drag: 'log' }),
    detail: number('Detail', 64, [8, 160], 'Cells along its longest side.', { whole: true }),
    thickness: number('Thickness', 0.04, [0, 10], 'Of a sheet that is open.', { unit: 'm' }),
  },
  measures: (dials) => dials,
  build(dial) {
    const data = dial.stock('mesh');
    if (data?.type !== 'mesh' || data.triangles.length === 0) return null;
    const field = fieldOf(data, dial.plain('detail'));
    const g = dial.graph;
    const size = dial.number('size');
    const shrink = g.float(1).div(size);
    const half = field.closed ? g.float(0) : dial.number('thickness').mul(0.5);
    return {
      distance(p) {
        const { distance, normal } = fieldAt(dial, field, p.scale(shrink));
        return { distance: distance.mul(size).sub(half), normal };
      },
      meets({ from, way, on }, gap) {
        const ray = { from: from.scale(shrink), way: way.scale(shrink), on };
        const radius = half.add(gap).mul(shrink).max(SKIN);
        return meetTriangles(dial, triangleTree(data), ray, radius);
      },
      doubt: size.mul(field.step / 2),
    };
  },
});
