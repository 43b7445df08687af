import { cos, sin, Vec3 } from '@vast-swarm/kernel';
import { blendLayers } from '../../feeds/blend';
import { pictureSample, sampledSize } from '../../language/pictureSample';
import { number, pictureDial } from '../../language/dials';
import { centreX, centreY, layerMode } from './common';
import { treatment } from '../define';

export const pictureLayer = treatment({
  type: 'pixel',
  kind: 'pictureLayer',
  title: 'Picture layer',
  help: 'A picture, clip or made map over the frame, with its opacity.',
  icon: 'M4 5h16v14H4zM4 16l5-5l4 4l3-3l4 4M15 9h.01',
  dials: {
    picture: pictureDial('Picture', 'What is laid over.'),
    size: number('Height', 1, [0.01, 10], 'In frame heights.', { drag: 'log' }),
    centreX,
    centreY,
    turn: number('Turn', 0, [-36000, 36000], 'About its centre.', { unit: '°' }),
    light: number('Light', 1, [0, 100], 'Multiplies the picture.', { drag: 'log' }),
    over: layerMode,
  },
  build({ dial, pixel }, below) {
    const picture = dial.picture('picture');
    if (!picture) return below;
    const { width, height } = sampledSize(picture);
    const tall = dial.number('size').mul(pixel.height);
    const dx = pixel.x.sub(dial.number('centreX').mul(pixel.width)).div(tall);
    const dy = pixel.y.sub(dial.number('centreY').mul(pixel.height)).div(tall);
    const angle = dial.number('turn').mul(Math.PI / 180);
    const [c, s] = [cos(angle), sin(angle)];
    const x = dx
      .mul(c)
      .add(dy.mul(s))
      .mul(height)
      .add(width / 2);
    const y = dy
      .mul(c)
      .sub(dx.mul(s))
      .mul(height)
      .add(height / 2);
    const { colour, opacity: alpha } = pictureSample(dial.builder, picture, x, y);
    const shown = colour.scale(dial.number('light').div(alpha.max(1e-4)));
    return Vec3.mix(below, blendLayers(dial.choice('over'), below, shown), alpha);
  },
});
