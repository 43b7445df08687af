import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Copies, type Piece } from '@vast-swarm/core/piece';
import type { StockEntry, Picture } from '@vast-swarm/core/stock';
import { CpuEngine } from '../src';
import { smallPiece } from '../../../tests/support/pieces';

/** What tells one repeat of a swarm from the next, seen in the drawn frame. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

const WIDE = 24;
/** Steps of eight bits by which the frame's dither moves them. */
const DITHER = 2;

function expectAlike(a: readonly number[], b: readonly number[]): void {
  expect(Math.max(...a.map((v, i) => Math.abs(v - b[i]!)))).toBeLessThanOrEqual(DITHER);
}

/** How many there are that differ by more than dither. */
function distinct(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.filter((v, i) => i === 0 || v - sorted[i - 1]! > DITHER).length;
}

const linear = (code: number): number =>
  code / 255 <= 0.04045 ? code / 255 / 12.92 : ((code / 255 + 0.055) / 1.055) ** 2.4;

/** One particle a repeat, as squares from left to right that fill the frame. */
function row(copies: Partial<Copies>, change: (p: Piece) => void = () => undefined): Piece {
  return smallPiece((p) => {
    p.frame = { width: 16 * WIDE, height: 16, rate: 30, length: 30, preroll: 0 };
    p.camera = makeChoice('cameras', 'orthographic');
    Object.assign(p.camera.dials, { elevation: 0, tall: 1, target: [WIDE / 2 - 0.5, 0, 0] });
    p.backdrop = makeChoice('backdrops', 'flat');
    p.backdrop.dials.colour = '#000000';
    p.forces = [];
    p.finish = [];
    const [swarm] = p.swarms;
    swarm!.emitter = makeChoice('emitters', 'point');
    swarm!.launch.dials.speed = 0;
    swarm!.bodies = [makePart('bodies', 'square', [])];
    Object.assign(swarm!.bodies[0]!.dials, { hardness: 1, mode: 'normal' });
    Object.assign(swarm!.dials, {
      rate: 0,
      burst: 1,
      lasts: 'ever',
      size: 1,
      opacity: 1,
      light: 1,
    });
    swarm!.dials.colour = {
      feed: 'gradient',
      by: 'random',
      stops: [
        { at: 0, colour: '#000000' },
        { at: 1, colour: '#ffffff' },
      ],
    };
    const plain = { count: WIDE, offset: [1, 0, 0], turn: [0, 0, 0], scale: 1 } as Copies;
    swarm!.copies = [{ ...plain, ...copies }];
    change(p);
  });
}

/** The frame of a piece: its pixels, and the red in the middle of each repeat. */
function drawn(
  piece: Piece,
  files = new Map<string, Picture>(),
): { pixels: Uint8Array; reds: number[] } {
  engine.setPlan(compilePiece(piece, { files }));
  engine.reset();
  engine.step();
  const { pixels } = engine.draw(16 * WIDE, 16);
  const reds = Array.from({ length: WIDE }, (_, i) => pixels[4 * (8 * 16 * WIDE + 16 * i + 8)]!);
  return { pixels: Uint8Array.from(pixels), reds };
}

const differ = (where: NonNullable<Copies['differ']>['in'][number], seed = 4): Partial<Copies> => ({
  differ: { in: [where], seed },
});

test('colours by chance are the same in all repeats, or differ where they shall, the first staying as it is', () => {
  const { reds: plain } = drawn(row({}));
  expect(distinct(plain)).toBe(1);
  const { reds } = drawn(row(differ('colour')));
  expectAlike([reds[0]!], [plain[0]!]);
  expect(distinct(reds)).toBeGreaterThan(WIDE * 0.4);
  // Even over the gradient: linear light of the reds has the mean and spread of a uniform number.
  const light = reds.map(linear);
  const mean = light.reduce((sum, v) => sum + v, 0) / WIDE;
  expect(Math.abs(mean - 0.5)).toBeLessThan(0.2);
  expectAlike(drawn(row(differ('colour'))).reds, reds);
  const other = drawn(row(differ('colour', 5))).reds;
  expect(other.filter((v, i) => Math.abs(v - reds[i]!) > DITHER).length).toBeGreaterThan(WIDE / 2);
  for (const where of ['picture', 'turn', 'opacity', 'map'] as const) {
    expectAlike(drawn(row(differ(where))).reds, plain);
  }
});

test('in a chain, what one link repeats keeps the chances of the link', () => {
  const chain = (first: Partial<Copies>, second: Partial<Copies>): number[] => {
    const piece = row({ count: 4, ...first });
    piece.swarms[0]!.copies.push({
      count: WIDE / 4,
      offset: [4, 0, 0],
      turn: [0, 0, 0],
      scale: 1,
      ...second,
    });
    return drawn(piece).reds;
  };
  const groups = chain({}, differ('colour'));
  expectAlike(
    groups,
    groups.map((_, i) => groups[i - (i % 4)]!),
  );
  expect(distinct(groups)).toBeGreaterThan(4);
  const alike = chain(differ('colour'), {});
  expectAlike(alike.slice(4), alike.slice(0, -4));
  const all = chain(differ('colour'), differ('colour'));
  expect(distinct(all)).toBeGreaterThan(WIDE * 0.4);
  // Two links of one seed do not undo each other.
  expect(distinct([0, 5, 10, 15].map((i) => all[i]!))).toBeGreaterThan(2);
});

test('opacity and turn by chance differ', () => {
  const spread = (key: 'opacity', change: Partial<Copies>): number[] =>
    drawn(
      row(change, (p) => {
        Object.assign(p.swarms[0]!.dials, {
          [key]: { feed: 'spread', from: 0.1, to: 1 },
          colour: '#ffffff',
        });
      }),
    ).reds;
  expect(distinct(spread('opacity', {}))).toBe(1);
  expect(distinct(spread('opacity', differ('opacity')))).toBeGreaterThan(WIDE * 0.7);
  const turned = (change: Partial<Copies>): number[] => {
    const { pixels } = drawn(
      row(change, (p) => {
        p.swarms[0]!.dials.colour = '#ffffff';
        Object.assign(p.swarms[0]!.bodies[0]!.dials, {
          wide: 0.3,
          turn: { feed: 'spread', from: 0, to: 180 },
        });
      }),
    );
    // How much of each repeat's upper left quarter is lit.
    return Array.from({ length: WIDE }, (_, i) => {
      let sum = 0;
      for (let y = 0; y < 8; y++) {
        for (let x = 0; x < 8; x++) sum += pixels[4 * (y * 16 * WIDE + 16 * i + x)]!;
      }
      return sum / 64;
    });
  };
  expect(distinct(turned({}))).toBe(1);
  expect(distinct(turned(differ('turn')))).toBeGreaterThan(WIDE * 0.4);
});

/** A strip of eight flat pictures, from dark to bright red. */
const SHEET: Picture = {
  type: 'picture',
  width: 32,
  height: 4,
  pixels: Uint8Array.from({ length: 4 * 32 * 4 }, (_, i) =>
    i % 4 === 3 ? 255 : i % 4 === 0 ? 20 + 30 * Math.floor(((i >> 2) % 32) / 4) : 0,
  ),
};

test.each(['order', 'random', 'noise', 'life'] as const)(
  'pictures of a set, chosen by %s, differ, each being one of the set',
  (pick) => {
    const entry: StockEntry = {
      id: 'sheet',
      name: 'Sheet',
      type: 'picture',
      source: { file: 'sheet.png', hash: 'abababababababab' },
    };
    const seen = (change: Partial<Copies>): number[] =>
      drawn(
        row(change, (p) => {
          p.stock.push(entry);
          p.swarms[0]!.dials.colour = '#ffffff';
          p.swarms[0]!.bodies = [makePart('bodies', 'pictureSet', [])];
          const dials = { pictures: ['sheet'], columns: 8, rows: 1, pick, mode: 'normal' };
          Object.assign(p.swarms[0]!.bodies[0]!.dials, dials);
        }),
        new Map([['abababababababab', SHEET]]),
      ).reds;
    const plain = seen({});
    expect(distinct(plain)).toBe(1);
    const reds = seen(differ('picture'));
    expectAlike([reds[0]!], [plain[0]!]);
    expect(distinct(reds)).toBeGreaterThan(4);
    expectAlike(
      reds,
      reds.map((red) => 20 + 30 * Math.round((red - 20) / 30)),
    );
  },
);

/** A ramp from black on the left to white on the right, in linear light. */
function ramp(p: Piece, by: 'along' | 'around'): void {
  p.pictures = [makePart('pictures', 'gradient', [])];
  p.pictures[0]!.id = 'ramp';
  const dials = { across: by === 'along' ? 1 : 0, down: by === 'along' ? 0 : 1, shape: 1 };
  Object.assign(p.pictures[0]!.dials, { ...dials, detail: 1024 });
  const [swarm] = p.swarms;
  swarm!.emitter = makeChoice('emitters', by === 'along' ? 'line' : 'rectangle');
  // Too small to be seen.
  const small =
    by === 'along' ? { from: [0, 0, 0], to: [0, 0, 0.001] } : { width: 0.001, depth: 0.001 };
  Object.assign(swarm!.emitter.dials, small);
  swarm!.dials.colour = { feed: 'map', picture: 'ramp', edge: 'edge' };
}

test.each(['along', 'around'] as const)(
  'a surface runs on %s from each repeat to the next',
  (by) => {
    const light = (change: Partial<Copies>): number[] => {
      const piece = row(change, (p) => {
        ramp(p, by);
      });
      return drawn(piece).reds.map(linear);
    };
    const [own] = light({});
    expect(Math.max(...light({})) - Math.min(...light({}))).toBeLessThan(0.02);
    const found = light({ runsOn: by });
    found.forEach((v, i) => {
      expect(Math.abs(v - (i + own!) / WIDE)).toBeLessThan(0.01);
    });
  },
);

test('a map is looked up at a place of its own in each repeat', () => {
  const seen = (change: Partial<Copies>): number[] =>
    drawn(
      row(change, (p) => {
        ramp(p, 'along');
        Object.assign(p.swarms[0]!.dials.colour, { edge: 'again' });
      }),
    ).reds;
  expect(distinct(seen({}))).toBe(1);
  const reds = seen(differ('map'));
  expectAlike([reds[0]!], [seen({})[0]!]);
  expect(distinct(reds)).toBeGreaterThan(WIDE * 0.6);
});
