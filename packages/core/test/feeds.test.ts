import { cameraAt, Scene } from '@vast-swarm/core/plan';
import {
  EASES,
  fromLinear,
  gradientAt,
  hexOf,
  linearRgb,
  shapeAt,
  toLinear,
} from '@vast-swarm/core/feeds';
import { eased } from '../src/feeds/shape';
import { makePiece } from '@vast-swarm/core/piece';

test.each(EASES)('the ease %s goes from 0 to 1 and never back', (ease) => {
  expect(eased(ease, 0)).toBe(0);
  expect(eased(ease, 1)).toBe(1);
  for (let i = 1; i <= 50; i++) {
    expect(eased(ease, i / 50)).toBeGreaterThanOrEqual(eased(ease, (i - 1) / 50));
  }
});

test('a shape passes its points, holds its ends, and can step', () => {
  const shape = [
    { x: 0.2, y: 1, ease: 'straight' as const },
    { x: 0.6, y: 0, ease: 'hold' as const },
    { x: 0.8, y: 0.5 },
  ];
  expect([0, 0.2, 0.4, 0.6, 0.79, 0.8, 1].map((x) => shapeAt(shape, x))).toEqual([
    1,
    1,
    expect.closeTo(0.5),
    0,
    0,
    0.5,
    0.5,
  ]);
});

test('sRGB there and back; light over 1 is kept in gradients', () => {
  for (let i = 0; i <= 255; i++) expect(fromLinear(toLinear(i / 255)) * 255).toBeCloseTo(i);
  expect(hexOf(linearRgb('#12ab9f'))).toBe('#12ab9f');
  const stops = [
    { at: 0, colour: '#ff0000', light: 8 },
    { at: 1, colour: '#0000ff' },
  ];
  expect(gradientAt(stops, 0)).toEqual([expect.closeTo(8), 0, 0]);
  expect(gradientAt(stops, 1)).toEqual([0, 0, expect.closeTo(1)]);
  // Cube roots of light meet half way: (2 + 0) / 2 cubed.
  expect(gradientAt([{ ...stops[0]!, ease: 'straight' }, stops[1]!], 0.5)[0]).toBeCloseTo(1);
});

test('the camera looks at its target from its distance, along axes square to each other', () => {
  const piece = makePiece('Camera');
  const { camera } = piece;
  Object.assign(camera.dials, {
    target: [1, 2, 3],
    distance: 5,
    azimuth: 35,
    elevation: 20,
    orbit: 10,
  });
  const { eye, right, up, forward } = cameraAt(new Scene(piece), 2);
  const dot = (a: number[], b: number[]): number => a.reduce((s, v, i) => s + v * b[i]!, 0);
  for (const axis of [right, up, forward]) expect(dot(axis, axis)).toBeCloseTo(1);
  expect(dot(right, up)).toBeCloseTo(0);
  expect(dot(right, forward)).toBeCloseTo(0);
  expect(dot(up, forward)).toBeCloseTo(0);
  [1, 2, 3].forEach((t, i) => expect(eye[i]! + 5 * forward[i]!).toBeCloseTo(t));
  // Elevation lifts the eye, and azimuth with two seconds of orbit takes it to +x.
  expect(eye[1]).toBeCloseTo(2 + 5 * Math.sin((20 * Math.PI) / 180));
  expect(Math.atan2(eye[0] - 1, eye[2] - 3) * (180 / Math.PI)).toBeCloseTo(55);
});
