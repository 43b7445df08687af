import { cos, sin, Vec3 } from '@vast-swarm/kernel';
import { blendLayers, type LayerMode } from '../../feeds/blend';
import { pictureSample, sampledSize } from '../../plan/pictureSample';
import { choice, number, stockDial } from '../dials';
import type { PixelFinishKind } from '../kinds';
import { centreX, centreY, colourDial, layerMode } from './common';

/** Layers that are laid over the frame, each with its blend mode. */

export const colourLayer: PixelFinishKind = {
  type: 'pixel',
  kind: 'colourLayer',
  title: 'Colour layer',
  help: 'One colour over the picture, or through a drawn mask.',
  icon: 'M4 8h12v11H4zM8 8V5h12v11h-4',
  dials: {
    colour: colourDial('Colour', '#ffcf9a', 'Of the layer.'),
    light: number('Light', 1, [0, 100], 'Multiplies the colour.', { drag: 'log' }),
    over: { ...layerMode, default: 'multiply' },
  },
  build({ dial }, below) {
    const colour = dial.colour('colour').scale(dial.number('light'));
    return blendLayers(dial.choice('over') as LayerMode, below, colour);
  },
};

export const gradientLayer: PixelFinishKind = {
  type: 'pixel',
  kind: 'gradientLayer',
  title: 'Gradient layer',
  help: 'A gradient over the picture, straight or round.',
  icon: 'M4 5h16v14H4zM4 9h16M4 13h16M4 16h16',
  dials: {
    form: choice('Form', 'linear', { linear: 'Straight', radial: 'Round' }, 'How it runs.'),
    gradient: {
      type: 'colour',
      title: 'Gradient',
      help: 'From its beginning to its end.',
      group: 'Dials',
      varies: 'life',
      default: {
        feed: 'gradient',
        stops: [
          { at: 0, colour: '#000000' },
          { at: 1, colour: '#1f6a7a' },
        ],
      },
    },
    light: number('Light', 1, [0, 100], 'Multiplies the gradient.', { drag: 'log' }),
    centreX,
    centreY,
    reach: number('Reach', 1, [0.01, 10], 'From its beginning to its end, in frame heights.'),
    turn: number('Turn', 90, [-36000, 36000], 'The way it runs; 90 is down.', {
      unit: '°',
      when: { dial: 'form', is: ['linear'] },
    }),
    over: { ...layerMode, default: 'add' },
  },
  build({ dial, pixel }, below) {
    const x = pixel.x.sub(dial.number('centreX').mul(pixel.width)).div(pixel.height);
    const y = pixel.y.sub(dial.number('centreY').mul(pixel.height)).div(pixel.height);
    const angle = dial.number('turn').mul(Math.PI / 180);
    const reach = dial.number('reach');
    const place =
      dial.choice('form') === 'radial'
        ? x.mul(x).add(y.mul(y)).sqrt().div(reach)
        : x
            .mul(cos(angle))
            .add(y.mul(sin(angle)))
            .div(reach)
            .add(0.5);
    const colour = dial.along(place.clamp(0, 1)).colour('gradient').scale(dial.number('light'));
    return blendLayers(dial.choice('over') as LayerMode, below, colour);
  },
};

export const pictureLayer: PixelFinishKind = {
  type: 'pixel',
  kind: 'pictureLayer',
  title: 'Picture layer',
  help: 'A picture over the frame, with its opacity.',
  icon: 'M4 5h16v14H4zM4 16l5-5l4 4l3-3l4 4M15 9h.01',
  dials: {
    picture: stockDial('Picture', ['picture'], 'What is laid over.'),
    size: number('Height', 1, [0.01, 10], 'In frame heights.', { drag: 'log' }),
    centreX,
    centreY,
    turn: number('Turn', 0, [-36000, 36000], 'About its centre.', { unit: '°' }),
    light: number('Light', 1, [0, 100], 'Multiplies the picture.', { drag: 'log' }),
    over: layerMode,
  },
  build({ dial, pixel }, below) {
    const picture = dial.stock('picture');
    if (picture?.type !== 'picture') return below;
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
    return Vec3.mix(below, blendLayers(dial.choice('over') as LayerMode, below, shown), alpha);
  },
};

export const swarmLayer: PixelFinishKind = {
  type: 'pixel',
  kind: 'swarmLayer',
  title: 'Swarm layer',
  help: 'A swarm that is drawn on a layer of its own, laid over here.',
  icon: 'M4 9l8-4l8 4l-8 4zM4 13l8 4l8-4',
  layer: 'swarm',
  dials: {
    swarm: {
      type: 'swarm',
      title: 'Swarm',
      help: 'Drawn here and not below.',
      group: 'Dials',
      default: '',
    },
    light: number('Light', 1, [0, 100], 'Multiplies the layer.', { drag: 'log' }),
    over: { ...layerMode, default: 'screen' },
  },
  build({ dial, layer }, below) {
    const colour = layer().scale(dial.number('light'));
    const mode = dial.choice('over') as LayerMode;
    // Where the layer is dark nothing of it is there.
    const there = colour.x.max(colour.y).max(colour.z).clamp(0, 1);
    const blended = blendLayers(mode, below, colour);
    return mode === 'add' || mode === 'screen' || mode === 'lighten'
      ? blended
      : Vec3.mix(below, blended, there);
  },
};
