import { rateAsFraction } from '../../piece/rate';
import { exrOf, type ExrChannel } from '../exr';
import type { Still } from './still';

/** OpenEXR: the light itself, in half precision, with all layers. */
export const openExr: Still = {
  title: 'OpenEXR, linear light',
  ending: 'exr',
  fine: true,
  layers: true,
  encode({ light, layers, rate, notes }) {
    const { width, height, planes, cover } = light();
    const [R, G, B] = planes;
    const named = { R, G, B, ...(cover ? { A: cover } : {}) };
    const channels = Object.entries(named).map(([name, values]): ExrChannel => {
      return { name, values, as: 'half' };
    });
    return exrOf({
      width,
      height,
      channels: [...channels, ...layers.channels],
      rate: rateAsFraction(rate),
      notes: { ...notes, ...layers.notes },
    });
  },
};
