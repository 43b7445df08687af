import { partDial } from '../../language/dials';
import { sharedDials } from '../../language/dialReader';
import { seenDials, seenLight } from '../media/seen';
import { layerMode, laidOver } from './common';
import { treatment } from '../define';

export const mediumLayer = treatment({
  type: 'pixel',
  kind: 'mediumLayer',
  title: 'Medium layer',
  help: 'A medium, where it is seen from the camera, laid over here.',
  icon: 'M3 8c3-3 6 3 9 0s6 3 9 0M3 13c3-3 6 3 9 0s6 3 9 0M6 19h12',
  dials: {
    medium: partDial('Medium', 'media', 'What is laid over.'),
    ...seenDials,
    over: { ...layerMode, default: 'screen' },
  },
  build({ dial, pixel }, below) {
    const space = dial.medium('medium');
    if (!space) return below;
    const light = seenLight(sharedDials(dial, seenDials), space, pixel);
    return laidOver(dial.choice('over'), below, light);
  },
});
