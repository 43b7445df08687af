import { choice, number, stockDial } from '../../language/dials';
import { serialOf } from '../../stock/memo';
import { movingClip } from '../../stock/clip/movingClip';
import { beginsAt } from '../beginsAt';
import { trimDials } from '../trim';
import { movingPicture } from '../define';

const never = { varies: 'never' as const };

export const played = movingPicture({
  kind: 'played',
  title: 'Clip',
  help: 'A clip of the stock, played along with the piece.',
  icon: 'M4 5h16v14H4zM8 5v14M16 5v14M4 9h4M4 15h4M16 9h4M16 15h4',
  dials: {
    clip: stockDial('Clip', ['clip'], 'From a file, or made by code.'),
    start: beginsAt('Frame at which it begins to move.'),
    speed: number('Speed', 1, [-20, 20], 'How fast it plays; below 0 backwards.', never),
    ...trimDials,
    between: choice(
      'Between',
      'nearest',
      { nearest: 'Nearest', mixed: 'Mixed' },
      'What a frame shows that falls between two of its pictures.',
      { group: 'Trim' },
    ),
  },
  plays: 'clip',
  strip: { start: 'start', trim: ['from', 'to'], speed: 'speed' },
  moving(dials, { rate, stock }) {
    const data = stock(dials.clip);
    if (data?.type !== 'clip') return undefined;
    const { start, speed, from, to, ends, between } = dials;
    const playing = { start: start / rate, speed, from, to, ends, mixes: between === 'mixed' };
    const name = `clip.${String(serialOf(data))}.${JSON.stringify([rate, playing])}`;
    return movingClip(data, name, rate, playing);
  },
});
