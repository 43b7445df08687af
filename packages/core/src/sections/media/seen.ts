import { Vec3 } from '@vast-swarm/kernel';
import type { DialReader } from '../../language/dialReader';
import { choice, number, type ColourDial } from '../../language/dials';
import { MediumReader } from '../../language/mediumSample';
import type { MediumSpace } from '../../language/mediumSpace';
import type { Pixel } from '../../language/pixel';
import type { Spot } from '../../language/taps';
import { View } from '../../language/view';

const gradient = { when: { dial: 'by', is: ['amount', 'speed'] } };

/** Dials of how a medium is seen: in the scene and in the finish alike. */
export const seenDials = {
  by: choice(
    'By',
    'light',
    { light: 'Its own light', amount: 'Its amount', speed: 'Its speed' },
    'What is seen of it.',
  ),
  full: number(
    'Full at',
    1,
    [1e-4, 1e5],
    'The amount, or the speed in m/s, at the end of the gradient.',
    { drag: 'log', ...gradient },
  ),
  colour: {
    type: 'colour',
    title: 'Gradient',
    help: 'Its colour, from none to full.',
    group: 'Dials',
    default: {
      feed: 'gradient',
      by: 'life',
      stops: [
        { at: 0, colour: '#000000' },
        { at: 0.4, colour: '#12507a' },
        { at: 0.75, colour: '#4fb6b0' },
        { at: 1, colour: '#f3f0d8' },
      ],
    },
    varies: 'life',
    ...gradient,
  } as ColourDial<'life'>,
  light: number('Light', 1, [0, 100], 'Multiplies what is seen.', { drag: 'log' }),
};

/** The light of a medium at a pixel of the frame. */
export function seenLight(
  dial: DialReader<typeof seenDials>,
  space: MediumSpace,
  pixel: Pixel,
): Vec3 {
  const medium = new MediumReader(dial.builder, space);
  const spot = spotAt(medium, pixel);
  const by = dial.choice('by');
  const gain = dial.number('light');
  if (by === 'light') return medium.light(spot).scale(gain);
  const flow = by === 'speed' ? medium.velocity(spot) : null;
  const value = flow
    ? flow.x.mul(flow.x).add(flow.y.mul(flow.y)).sqrt()
    : medium.content(spot).amount;
  const along = value.div(dial.number('full')).clamp(0, 1);
  const light = dial.along(along).colour('colour').scale(gain);
  const there = medium.inside(spot);
  return Vec3.select(there, light, light.scale(0));
}

/** Where a pixel of the frame is on a medium. */
function spotAt(medium: MediumReader, pixel: Pixel): Spot {
  const { space, plane, builder } = medium;
  if (space.fillsFrame) {
    return {
      x: pixel.x.div(pixel.width).mul(space.columns).add(0.5),
      y: pixel.y
        .div(pixel.height)
        .mul(-space.lines)
        .add(space.lines + 0.5),
    };
  }
  // Along the way of sight to the plane.
  const view = new View(builder);
  const focal = view.number('focal', (pose, height) => pose.focal * height);
  const across = pixel.x.sub(pixel.width.mul(0.5)).div(focal);
  const up = pixel.height.mul(0.5).sub(pixel.y).div(focal);
  const [eye, forward] = [view.axis('eye'), view.axis('forward')];
  const aside = view.axis('right').scale(across).add(view.axis('up').scale(up));
  const [from, way] = view.perspective ? [eye, forward.add(aside)] : [eye.add(aside), forward];
  return plane.meet(from, way);
}
