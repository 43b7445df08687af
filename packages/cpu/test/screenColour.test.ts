import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterAll(() => {
  engine.close();
});

/** One particle that crosses the picture, with a trail that is tinted by what is behind it: red on the left, blue on the right. */
function crossing(form: string, change: (piece: Piece) => void = () => undefined): Piece {
  return smallPiece((p) => {
    p.forces = [];
    p.finish = [];
    p.backdrop = { ...makeChoice('backdrops', 'flat'), dials: { colour: '#000000' } };
    p.pictures = [{ ...makePart('pictures', 'gradient', []), id: 'sides' }];
    Object.assign(p.pictures[0]!.dials, { dark: '#ff0000', bright: '#0000ff' });
    const [swarm] = p.swarms as [Piece['swarms'][0]];
    swarm.emitter = makeChoice('emitters', 'point');
    swarm.emitter.dials.centre = [-2, 0, 0];
    swarm.launch = makeChoice('launches', 'cone');
    Object.assign(swarm.launch.dials, { direction: [1, 0, 0], angle: 0, speed: 4 });
    const trail = makePart('bodies', 'trail', []);
    Object.assign(trail.dials, { form, length: 40, width: 3, fade: 1 });
    trail.dials.tint = { feed: 'map', picture: 'sides', by: 'screen' };
    swarm.bodies = [trail];
    Object.assign(swarm.dials, { when: 'bursts', burst: 1, lasts: 'ever', size: 0.1 });
    Object.assign(swarm.dials, { opacity: 1, colour: '#ffffff', light: 1 });
    change(p);
  });
}

/** Red and blue of all pixels of a column of the picture. */
function sides(pixels: Uint8ClampedArray, column: number): { red: number; blue: number } {
  let [red, blue] = [0, 0];
  for (let row = 0; row < 72; row++) {
    red += pixels[4 * (row * 128 + column)]!;
    blue += pixels[4 * (row * 128 + column) + 2]!;
  }
  return { red, blue };
}

test.each(['line', 'ribbon', 'column', 'tube'])(
  'every place of a trail has the colour of what is behind it: %s',
  async (form) => {
    // What lies flat is seen from above.
    engine.setPlan(compilePiece(crossing(form, (p) => (p.camera.dials.elevation = 60))));
    engine.reset();
    for (let i = 0; i < 29; i++) {
      await engine.ready();
      engine.step();
    }
    await engine.ready();
    const { pixels } = engine.draw(128, 72);
    const seen = [40, 52, 64, 76, 88].map((column) => sides(pixels, column));
    for (const { red, blue } of seen) expect(red + blue).toBeGreaterThan(200);
    const parts = seen.map(({ red, blue }) => blue / (red + blue));
    // One colour after the other, and not that of the head, which is far to the right.
    for (let i = 1; i < parts.length; i++) expect(parts[i]!).toBeGreaterThan(parts[i - 1]! + 0.03);
    expect(parts[0]!).toBeLessThan(0.45);
    expect(parts[4]!).toBeGreaterThan(0.55);
  },
);
