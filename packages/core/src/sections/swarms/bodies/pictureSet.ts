import { choice, number, stocksDial } from '../../../language/dials';
import { body } from '../../define';
import { markDials } from './common';

export const pictureSetDials = {
  pictures: stocksDial('Pictures', ['picture'], 'Pictures of one size, or one that is a sheet.'),
  columns: number('Sheet columns', 1, [1, 64], 'How many pictures stand side by side on a sheet.', {
    whole: true,
  }),
  rows: number('Sheet rows', 1, [1, 64], 'How many rows of pictures a sheet has.', { whole: true }),
  pick: choice(
    'Which one',
    'order',
    {
      order: 'By birth order',
      noise: 'By noise',
      random: 'By chance, anew in time',
      life: 'Run through over life',
      letter: 'By letter of the words',
    },
    'How each particle comes to its picture.',
  ),
  every: number('Anew every', 6, [1, 10000], 'Frames until chance or noise picks again.', {
    whole: true,
    unit: 'frames',
    when: { dial: 'pick', is: ['noise', 'random'] },
  }),
  ...markDials,
};

export const pictureSet = body({
  kind: 'pictureSet',
  title: 'Picture set',
  help: 'One picture of a set, by birth order, noise, chance or age.',
  icon: 'M3 8h12v11H3zM6 8V5h15v11h-6',
  shape: { draws: 'mark', pattern: 'pictures' },
  dials: pictureSetDials,
});
