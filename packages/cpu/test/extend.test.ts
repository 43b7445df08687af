import { addKind, catalogue, emitter, kindOf, stockDial } from '@vast-swarm/core/kinds';
import { compilePiece } from '@vast-swarm/core/plan';
import { kindList } from '@vast-swarm/core/formats';
import {
  makeChoice,
  parsePiece,
  PieceError,
  pieceJsonSchema,
  pieceText,
  setDial,
  validatePiece,
  type Piece,
} from '@vast-swarm/core/piece';
import { addReader, readStock, type Cloud, type StockFiles } from '@vast-swarm/core/stock';
import { Vec3 } from '@vast-swarm/kernel';
import { smallPiece } from '../../../tests/support/pieces';
import { toyPiece } from '../../../tests/support/toys';
import { CpuEngine } from '../src';

/** Kinds from outside: what docs/extend.md promises. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

function run(piece: Piece, frame: number, files: StockFiles = new Map()): void {
  engine.setPlan(compilePiece(piece, { files }));
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

test('an emitter reads a kind of file from outside: particles are born at its places, in their order', async () => {
  addReader({
    endings: ['stations'],
    gives: 'cloud',
    load: () =>
      Promise.resolve((_, bytes) => {
        const numbers = new TextDecoder().decode(bytes).split(/[;,]/).map(Number);
        return { type: 'cloud', positions: Float32Array.from(numbers) };
      }),
  });
  const stations = emitter({
    kind: 'toyStations',
    title: 'Toy stations',
    help: 'Particles start at the places of a file, one after the other.',
    icon: 'M4 12h16',
    dials: { file: stockDial('File', ['cloud'], 'Its places.') },
    build(dial) {
      const { positions } = dial.stock('file') as Cloud;
      // Four places.
      const at = dial.particle!.id.and(3);
      const axis = (k: number) =>
        dial.block(
          positions.filter((_, i) => i % 3 === k),
          at,
        );
      return {
        position: new Vec3(axis(0), axis(1), axis(2)),
        normal: dial.randomDirection('normal'),
      };
    },
  });
  addKind('emitters', stations);
  const places = [0, 0.5, 1, -1, 0.25, 0, 0.75, -0.5, 0.125, 2, 2, -2];
  const data = await readStock(
    'quay.stations',
    new TextEncoder().encode('0,.5,1;-1,.25,0;.75,-.5,.125;2,2,-2'),
  );
  const piece = smallPiece((p) => {
    p.stock = [
      {
        id: 'quay',
        name: 'Quay',
        type: 'cloud',
        source: { file: 'quay.stations', hash: 'a'.repeat(16) },
      },
    ];
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'toyStations');
    swarm.emitter.dials.file = 'quay';
    swarm.launch.dials.speed = 0;
    p.forces = [];
    Object.assign(swarm.dials, { rate: 0, burst: 7, lifetime: 60 });
  });
  expect(parsePiece(pieceText(piece))).toEqual(piece);
  run(piece, 5, new Map([['a'.repeat(16), data]]));
  const [x, y, z] = (['px', 'py', 'pz'] as const).map((n) => engine.state('motes', n));
  for (let i = 0; i < 7; i++) {
    expect([x![i], y![i], z![i]]).toEqual(places.slice(3 * (i % 4), 3 * (i % 4) + 3));
  }
});
