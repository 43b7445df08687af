import { choice, number, type ColourDial, type Dials } from './dials';
import type { LightKind } from './kinds';

/** What lights mesh copies, columns and tubes. */

const colour = (value: string): ColourDial => ({
  type: 'colour',
  title: 'Colour',
  default: value,
  help: 'The colour of its light.',
  group: 'Dials',
  varies: 'frame',
});

function lamp(azimuth: number, elevation: number, light: string, strength: number): Dials {
  return {
    colour: colour(light),
    strength: number('Strength', strength, [0, 1000], 'Multiplies its light.', { drag: 'log' }),
    azimuth: number('From', azimuth, [-36000, 36000], 'Round the scene; 0 is the front.', {
      unit: '°',
    }),
    elevation: number('Height', elevation, [-90, 90], 'Above the horizon.', { unit: '°' }),
    held: choice(
      'Stands',
      'world',
      { world: 'In the scene', camera: 'With the camera' },
      'What it turns with.',
    ),
  };
}

export const key: LightKind = {
  kind: 'key',
  title: 'Key light',
  help: 'The main light, from far away; it can cast shadows on a floor.',
  icon: 'M12 3v3M5 6l2 2M19 6l-2 2M8 14a4 4 0 1 1 8 0zM9 18h6',
  dials: {
    ...lamp(-35, 45, '#fff1dc', 1),
    shadow: number('Shadow', 0, [0, 1], 'How dark mesh copies make the floor.'),
    floor: number('Floor', -1, [-1000, 1000], 'Height of the floor that shadows fall on.', {
      unit: 'm',
      when: { dial: 'shadow', not: 0 },
    }),
    blur: number('Shadow blur', 0.02, [0, 0.3], 'As a part of the frame height.', {
      when: { dial: 'shadow', not: 0 },
    }),
  },
  falls: 'facing',
};

export const fill: LightKind = {
  kind: 'fill',
  title: 'Fill light',
  help: 'Lifts what the key light leaves dark.',
  icon: 'M12 4a8 8 0 0 0 0 16zM12 4a8 8 0 0 1 0 16',
  dials: lamp(50, 15, '#9fc6d8', 0.35),
  falls: 'facing',
};

export const rim: LightKind = {
  kind: 'rim',
  title: 'Rim light',
  help: 'Draws a bright edge where things turn away.',
  icon: 'M16 4a9 9 0 0 1 0 16M12 6a6 6 0 1 0 0 12',
  dials: lamp(160, 30, '#ffd9a0', 1),
  falls: 'edge',
};

export const ambient: LightKind = {
  kind: 'ambient',
  title: 'Ambient light',
  help: 'The same light from everywhere.',
  icon: 'M12 8a4 4 0 1 0 0 8a4 4 0 0 0 0-8zM4 12h.01M20 12h.01M12 4h.01M12 20h.01',
  dials: {
    colour: colour('#24404a'),
    strength: number('Strength', 0.5, [0, 100], 'Multiplies its light.', { drag: 'log' }),
  },
  falls: 'everywhere',
};
