import { rangeOf } from '../../../feeds/feeds';
import { spacingOf } from '../../../stock/places/spacing';
import { number, stockDial } from '../../../language/dials';
import { NOTHING_CHOSEN } from './nothingChosen';
import { nowhere, pointOf } from './mesh';
import { orderDial, placeNumber } from './order';
import { emitter } from '../../define';

export const cloud = emitter({
  kind: 'cloud',
  title: 'Point cloud',
  help: 'Particles start at the points of a file, with their colours.',
  icon: 'M6 16h.01M9 11h.01M13 14h.01M17 10h.01M12 8h.01M16 17h.01M7 7h.01M19 14h.01M10 19h.01',
  dials: {
    cloud: stockDial('Points', ['cloud'], 'From a PLY, XYZ or CSV file.'),
    order: orderDial(),
    size: number('Scale', 1, [0.0001, 10_000], 'Of the points.', { drag: 'log' }),
  },
  shownWhole: true,
  places({ cloud: chosen, size }, stock) {
    const data = stock(chosen);
    if (data?.type !== 'cloud') return null;
    return {
      count: data.positions.length / 3,
      spacing: () => spacingOf(data.positions) * rangeOf(size)[1],
      coloured: data.colours !== undefined,
    };
  },
  whyNoBirths: ({ cloud: chosen }) => (chosen ? null : NOTHING_CHOSEN),
  build(dial) {
    const data = dial.stock('cloud');
    if (data?.type !== 'cloud' || data.positions.length === 0) return nowhere(dial);
    const index = placeNumber(dial, data.positions.length / 3);
    const position = pointOf(dial, data, 'positions', data.positions, index);
    const place = {
      position: position.scale(dial.number('size')),
      normal: dial.randomDirection('normal'),
    };
    if (!data.colours) return place;
    return { ...place, colour: pointOf(dial, data, 'colours', data.colours, index) };
  },
});
