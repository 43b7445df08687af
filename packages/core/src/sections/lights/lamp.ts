import { choice, colourDial, number, type ColourDial } from '../../language/dials';

/** Lamps: lights of mesh copies, columns and tubes. */

export const lightColour = (value: string): ColourDial<'frame'> =>
  colourDial('Colour', value, 'The colour of its light.');

export function lamp(azimuth: number, elevation: number, light: string, strength: number) {
  return {
    colour: lightColour(light),
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

/** Dials of every light that comes from somewhere. */
export const lampDials = lamp(0, 0, '#ffffff', 1);
