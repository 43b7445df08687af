import type { BodyKind } from '../kinds';
import { choice, number } from '../dials';

export const disc: BodyKind = {
  kind: 'disc',
  title: 'Disc',
  help: 'A round dot that always faces the camera, soft or hard.',
  icon: 'M12 5a7 7 0 1 0 0 14a7 7 0 0 0 0-14zM12 9a3 3 0 1 0 0 6a3 3 0 0 0 0-6z',
  dials: {
    hardness: number('Hardness', 0, [0, 1], '0 fades from the middle, 1 has a sharp edge.', {
      varies: 'never',
      group: 'Look',
    }),
    mode: choice(
      'Draw mode',
      'add',
      { add: 'Add', screen: 'Screen', normal: 'Normal, sorted' },
      'How a particle meets what is behind it.',
      { group: 'Look' },
    ),
  },
  edge(dials) {
    // From 1 at hardness 0 to 65 at 1; the engines stop where the edge is a pixel wide.
    return 1 + (dials.hardness as number) ** 2 * 64;
  },
};
