import { Vec3, type Expr } from '@vast-swarm/kernel';
import { spotsOf } from '../../stock/pictureParts';
import { serialOf } from '../../stock/stock';
import type { EmitterKind } from '../kinds';
import { choice, number, stockDial } from '../dials';
import { nowhere } from './mesh';
import { orderDial, placeNumber } from './order';

export const picture: EmitterKind = {
  kind: 'picture',
  title: 'Picture',
  help: 'Particles start where a picture is bright or solid, with its colours.',
  icon: 'M3 5h18v14H3zM3 16l5-5l4 4l3-3l6 5M15 9h.01',
  dials: {
    picture: stockDial('Picture', ['picture'], 'From a PNG, JPEG or WebP file.'),
    by: choice(
      'By',
      'brightness',
      { brightness: 'Brightness', alpha: 'Alpha' },
      'What a pixel is asked for.',
    ),
    limit: number(
      'Limit',
      0.2,
      [0, 1],
      'Particles start where the picture has this much or more.',
      {
        varies: 'never',
      },
    ),
    width: number('Size', 4, [0.0001, 10_000], 'The longer side.', { unit: 'm', drag: 'log' }),
    order: orderDial(),
  },
  build(dial) {
    const data = dial.stock('picture');
    if (data?.type !== 'picture') return nowhere(dial);
    const by = dial.choice('by') === 'alpha' ? 'alpha' : 'brightness';
    const spots = spotsOf(data, by, dial.plain('limit'));
    if (spots.count === 0) return nowhere(dial);
    const { builder, graph: g } = dial;
    const index = placeNumber(dial, spots.count);
    const name = `data/spots${String(serialOf(spots))}`;
    const read = (key: string, values: Float32Array): Expr =>
      builder.block(`${name}.${key}`, values, index);
    const side = builder.uniform(`${dial.scope}.pixel`, spots.pixel);
    const jitter = (axis: string): Expr => dial.random(`in.${axis}`).sub(0.5).mul(side);
    const zero = g.float(0);
    const [x, y] = [read('x', spots.x).add(jitter('x')), read('y', spots.y).add(jitter('y'))];
    const [red, green, blue] = spots.colour.map((c, i) => read('rgb'[i]!, c));
    return {
      position: new Vec3(x, y, zero).scale(dial.number('width')),
      normal: new Vec3(zero, zero, g.float(1)),
      colour: new Vec3(red!, green!, blue!),
    };
  },
};
