import { medium } from '../define';
import { drawnSize, frontLine } from '../outlines';
import { fluidDials } from './dials';

export const fluid = medium({
  kind: 'fluid',
  title: 'Medium',
  help: 'A flat fluid that swarms stir and colour, that carries them, and that is seen itself.',
  icon: 'M3 8c3-3 6 3 9 0s6 3 9 0M3 13c3-3 6 3 9 0s6 3 9 0M3 18c3-3 6 3 9 0s6 3 9 0',
  dials: fluidDials,
  outline({ fills, width, aspect }) {
    if (fills === 'frame') return [];
    const across = drawnSize(width);
    return [frontLine(across, across / aspect)];
  },
});
