import { addKind, catalogue, kindOf } from '@vast-swarm/core/kinds';
import { compilePiece } from '@vast-swarm/core/plan';
import { kindList } from '@vast-swarm/core/formats';
import {
  parsePiece,
  PieceError,
  pieceJsonSchema,
  pieceText,
  setDial,
  validatePiece,
  type Piece,
} from '@vast-swarm/core/piece';
import { toyPiece } from '../../../tests/support/toys';
import { CpuEngine } from '../src';

/** Kinds from outside: what docs/extend.md promises. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

function run(piece: Piece, frame: number): void {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
}

test('a piece of kinds from outside is read, checked by their dials, and written', () => {
  const piece = toyPiece();
  expect(parsePiece(pieceText(piece))).toEqual(piece);
  expect(setDial(piece, 'toyDim.keep=0.25').finish[0]!.dials.keep).toBe(0.25);
  expect(() => setDial(piece, 'toyDim.keep=2')).toThrow(PieceError);
  expect(() => setDial(piece, 'toyLift.weight=2')).toThrow('it has strength, share, region');
  expect(JSON.stringify(pieceJsonSchema())).toContain('toyRamp');
});

test('they get what all kinds of their shelf have', () => {
  toyPiece();
  expect(Object.keys(kindOf('forces', 'toyLift').dials)).toContain('regionSoft');
  expect(Object.keys(kindOf('finish', 'toyDim').dials)).toContain('mask');
  expect(Object.keys(kindOf('emitters', 'toyPair').dials)).toContain('along');
});

test('they are in the docs, and a name is given once', () => {
  toyPiece();
  expect(kindList()).toContain('- `toyPair`: Particles start at two places in turn.');
  expect(() => addKind('forces', catalogue.forces[0]!)).toThrow("a kind 'gravity' among forces");
});

test('they move particles as their arithmetic says', () => {
  run(toyPiece(), 59);
  const [px, py] = [engine.state('motes', 'px'), engine.state('motes', 'py')];
  for (let i = 0; i < 400; i++) {
    expect(px[i]).toBeCloseTo(i % 2 === 0 ? -1 : 1, 5);
    // y = a t² / 2 after two seconds at 0.5 m/s².
    expect(py[i]).toBeCloseTo(1, 4);
  }
});

test('share and region scale what a force from outside gives', () => {
  const half = toyPiece();
  Object.assign(half.forces[0]!.dials, { share: 0.5 });
  run(half, 59);
  expect(engine.state('motes', 'py')[0]).toBeCloseTo(0.5, 4);
  const elsewhere = toyPiece();
  Object.assign(elsewhere.forces[0]!.dials, { region: 'ball', regionCentre: [0, 50, 0] });
  run(elsewhere, 59);
  expect(engine.state('motes', 'py')[0]).toBe(0);
});

test('they are drawn, lit by the signal, and dimmed by the treatment', () => {
  const drawn = (change: (piece: Piece) => void, frame: number): Uint8ClampedArray => {
    const piece = toyPiece();
    piece.forces = [];
    change(piece);
    run(validatePiece(piece), frame);
    return engine.draw(128, 72).pixels;
  };
  const light = (frame: number): number =>
    drawn((p) => (p.backdrop = { kind: 'flat', dials: { colour: '#000000' } }), frame)
      .filter((_, i) => i % 4 < 3)
      .reduce((a, b) => a + b, 0);
  expect(light(50)).toBeGreaterThan(2 * light(5));
  // Half the light of sRGB 128 is sRGB 93.
  const grey = (p: Piece): void => {
    p.backdrop = { kind: 'flat', dials: { colour: '#808080' } };
    p.swarms = [];
  };
  expect(Math.abs(drawn(grey, 0)[0]! - 93)).toBeLessThanOrEqual(1);
});
