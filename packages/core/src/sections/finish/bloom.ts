import { number } from '../../language/dials';
import { treatment } from '../define';

export const bloomDials = {
  amount: number('Amount', 0.35, [0, 4], 'How much light spills.'),
  threshold: number('Threshold', 0.2, [0, 50], 'Light below it stays where it is.'),
  radius: number('Radius', 0.12, [0.002, 0.5], 'How far it spills, as a part of the height.', {
    drag: 'log',
  }),
};

export const bloom = treatment({
  type: 'bloom',
  kind: 'bloom',
  title: 'Bloom',
  help: 'Light spills over from what is bright.',
  icon: 'M12 8a4 4 0 1 0 0 8a4 4 0 0 0 0-8zM12 2v2M12 20v2M2 12h2M20 12h2M5 5l1.5 1.5M17.5 17.5L19 19M5 19l1.5-1.5M17.5 6.5L19 5',
  dials: bloomDials,
});
