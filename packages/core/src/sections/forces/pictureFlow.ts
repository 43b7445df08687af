import { Vec3 } from '@vast-swarm/kernel';
import { slopesOf } from '../../stock/places/slopes';
import { choice, number, stockDial } from '../../language/dials';
import { carries, flowDials, flowEffect } from './flow';
import { planeDials, planeOf, planePlace, readGrid } from './plane';
import { force } from '../define';
import { drawnSize, frontLine } from '../outlines';

export const pictureFlow = force({
  kind: 'pictureFlow',
  title: 'Picture flow',
  help: 'A flow read from a picture: along its contours, up its slopes, or by its colours.',
  icon: 'M3 5h18v14H3zM6 15c3 0 3-5 6-5s3 3 6 1M16 9l2 2l-2 2',
  dials: {
    picture: stockDial('Picture', ['picture'], 'From a PNG, JPEG or WebP file.'),
    reads: choice(
      'Reads',
      'contours',
      {
        contours: 'Along the contours',
        slopes: 'Towards the light',
        colours: 'Red across, green up',
      },
      'How brightness or colour becomes a direction.',
    ),
    blur: number('Blur', 0.02, [0, 0.5], 'Part of the picture over which it is smoothed first.', {
      varies: 'never',
    }),
    speed: number('Speed', 1, [-1000, 1000], 'Where the picture is steepest.', {
      unit: 'm/s',
      varies: 'life',
    }),
    ...planeDials,
    ...flowDials('carry'),
  },
  carries,
  plane: planeOf,
  outline: ({ width, height }) => [frontLine(drawnSize(width), drawnSize(height))],
  build(dial, { position, step }) {
    const data = dial.stock('picture');
    if (data?.type !== 'picture') return {};
    const by = dial.choice('reads') === 'colours' ? 'colours' : 'light';
    const slopes = slopesOf(data, by, dial.plain('blur'));
    const { u, v, across, up, inside } = planePlace(dial, position);
    const read = (axis: 'x' | 'y') =>
      readGrid(dial, slopes[axis], slopes.width, slopes.height, u, v);
    const [x, y] = [read('x'), read('y')];
    // A quarter turn from the slope leads round the light, clockwise as one sees the picture.
    const round = dial.choice('reads') === 'contours';
    const [a, b] = round ? [y.neg(), x] : [x, y];
    const weight = dial.number('speed').mul(inside);
    const part = (axis: 'x' | 'y' | 'z') => across[axis].mul(a).add(up[axis].mul(b)).mul(weight);
    return flowEffect(dial, new Vec3(part('x'), part('y'), part('z')), step);
  },
});
