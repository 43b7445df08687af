import { Vec3, type Expr } from '@vast-swarm/kernel';
import { spotsByWeight, spotsOf } from '../../../stock/places/pictureParts';
import { rangeOf } from '../../../feeds/feeds';
import { choice, number, pictureDial } from '../../../language/dials';
import { NOTHING_CHOSEN } from './nothingChosen';
import { nowhere } from './mesh';
import { pixelStep } from '../../../stock/clip/spots';
import { movingPlace, spotTrack } from './movingPicture';
import { orderDial, pickRow, placeNumber } from './order';
import { emitter } from '../../define';

export const picture = emitter({
  kind: 'picture',
  title: 'Picture',
  help: 'Particles start where a picture is bright or solid, with its colours.',
  icon: 'M3 5h18v14H3zM3 16l5-5l4 4l3-3l6 5M15 9h.01',
  dials: {
    picture: pictureDial('Picture', 'Of the stock, or a clip or made map of the piece.'),
    by: choice(
      'By',
      'brightness',
      { brightness: 'Brightness', alpha: 'Alpha' },
      'What a pixel is asked for.',
    ),
    limit: number(
      'Threshold',
      0.2,
      [0, 1],
      'Particles start where the picture has this much or more.',
      {
        varies: 'never',
      },
    ),
    density: choice(
      'Density',
      'even',
      { even: 'Even over the limit', value: 'By how much it has' },
      'Whether all that passes the limit gives as many births, or twice as bright twice as many.',
    ),
    width: number('Long side', 4, [0.0001, 10_000], 'Of the picture.', { unit: 'm', drag: 'log' }),
    order: { ...orderDial(), when: { dial: 'density', is: ['even'] } },
  },
  places({ picture: chosen, by, limit, density, width }, stock) {
    const data = stock(chosen);
    if (data?.type !== 'picture' || density !== 'even') return null;
    const spots = spotsOf(data, by, limit);
    return { count: spots.count, spacing: () => spots.pixel * rangeOf(width)[1], coloured: true };
  },
  whyNoBirths: ({ picture: chosen }) =>
    chosen ? 'No pixel of the picture passes the limit.' : NOTHING_CHOSEN,
  build(dial) {
    const data = dial.picture('picture');
    if (!data) return nowhere(dial);
    const by = dial.choice('by') === 'alpha' ? 'alpha' : 'brightness';
    const limit = dial.plain('limit');
    if (data.type === 'moving') {
      const track = spotTrack(data, { by, limit, density: dial.choice('density') });
      const side = pixelStep(data) / Math.max(data.width, data.height);
      const pixel = dial.constant('pixel', side);
      const aspect = data.width / data.height;
      return movingPlace(dial, track, { pixel, width: dial.number('width'), aspect });
    }
    const spots = spotsOf(data, by, limit);
    if (spots.count === 0) return nowhere(dial);
    const g = dial.graph;
    const even = dial.choice('density') === 'even';
    const index = even ? placeNumber(dial, spots.count) : pickRow(dial, spotsByWeight(spots));
    const read = (values: Float32Array): Expr => dial.block(values, index);
    const side = dial.constant('pixel', spots.pixel);
    // Where each pixel has one, it stands in its middle.
    const whole = dial.particle?.onePlaceEach !== undefined;
    const jitter = (axis: string): Expr =>
      whole ? g.float(0) : dial.random(`in.${axis}`).sub(0.5).mul(side);
    const zero = g.float(0);
    const [x, y] = [read(spots.x).add(jitter('x')), read(spots.y).add(jitter('y'))];
    const [red, green, blue] = spots.colour.map(read);
    const { width, height } = data;
    const long = Math.max(width, height);
    const part = (at: Expr, size: number): Expr => at.mul(long / size).add(0.5);
    return {
      position: new Vec3(x, y, zero).scale(dial.number('width')),
      surface: [part(x, width), g.float(1).sub(part(y, height))],
      normal: new Vec3(zero, zero, g.float(1)),
      colour: new Vec3(red!, green!, blue!),
    };
  },
});
