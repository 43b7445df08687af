import {
  checkSize,
  parsePiece,
  PieceError,
  pieceText,
  setDial,
  type Piece,
} from '@vast-swarm/core/piece';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { migrate } from '../src/piece/migrate';
import { pieceOfEveryKind, smallPiece } from '../../../tests/support/pieces';

function problems(text: string): string {
  try {
    parsePiece(text);
  } catch (error) {
    if (error instanceof PieceError) return error.message;
    throw error;
  }
  throw new Error('the piece was accepted');
}

/** The small piece as text, with one line of it changed. */
function withLine(from: RegExp, to: string): { text: string; line: number } {
  const lines = pieceText(smallPiece()).split('\n');
  const at = lines.findIndex((l) => from.test(l));
  expect(at).toBeGreaterThan(0);
  lines[at] = lines[at]!.replace(from, to);
  return { text: lines.join('\n'), line: at + 1 };
}

test.each([
  ...pieceOfEveryKind(),
  ...DEMO_SHOW.pieces.map((d): [string, Piece] => [d.id, d.piece]),
])('a piece survives its file: %s', (_, piece) => {
  expect(parsePiece(pieceText(piece))).toEqual(piece);
});

test('dials that are left out take their defaults', () => {
  const { text } = withLine(/^\s*"rate": 900,$/, '');
  expect(parsePiece(text).swarms[0]!.dials.rate).toBe(2000);
});

test.each([
  ['an unknown kind', /"kind": "curlNoise"/, '"kind": "magic"', 'no such kind', 'forces[0].kind'],
  [
    'a dial out of range',
    /"rate": 900/,
    '"rate": -5',
    'must stay within 0 and',
    'swarms[0].dials.rate',
  ],
  ['an unknown dial', /"rate": 900/, '"rat": 900', 'no such field', 'swarms[0].dials.rat'],
  [
    'a word for a number',
    /"rate": 900/,
    '"rate": "many"',
    'none of the forms',
    'swarms[0].dials.rate',
  ],
  ['a bad colour', /"#ffb45c"/, '"orange"', '#rrggbb', 'swarms[0].dials.colour.stops[0].colour'],
])('%s is told by line and field', (_, from, to, message, where) => {
  const { text, line } = withLine(from, to);
  const told = problems(text);
  expect(told).toContain(message);
  expect(told).toContain(`line ${String(line)}, ${where}:`);
});

test('a spread past its limits is told', () => {
  const { text } = withLine(/"from": 1,/, '"from": -1,');
  expect(problems(text)).toContain('swarms[0].dials.lifetime: must stay within 0.01 and 3600');
});

test('a missing field is told', () => {
  const { seed, ...rest } = smallPiece();
  expect(seed).toBe(1);
  expect(problems(JSON.stringify(rest))).toMatch(/seed: is missing \(number wanted\)/);
});

test('what is not JSON is told by line; NaN is not JSON', () => {
  const { text, line } = withLine(/"rate": 900/, '"rate": NaN');
  expect(problems(text)).toContain(`line ${String(line)}: This is not JSON`);
  expect(problems('{\n  "format": "vast-swarm piece",\n')).toMatch(/line \d: This is not JSON/);
  expect(problems('')).toMatch(/not JSON/);
});

test('other files, newer versions, deep nesting and vast files are refused', () => {
  expect(problems('[1, 2, 3]')).toContain("its 'format' should be");
  expect(problems(pieceText({ ...smallPiece(), version: 120 as 12 }))).toContain(
    'newer Vast Swarm',
  );
  expect(problems('['.repeat(10_000) + ']'.repeat(10_000))).toContain('Nested more than 64 deep');
  expect(() => {
    checkSize(200 * 2 ** 20);
  }).toThrow('The file has 200 MB');
});

test('an id that is used twice is told', () => {
  const piece = smallPiece((p) => p.swarms.push(structuredClone(p.swarms[0]!)));
  expect(problems(pieceText(piece))).toContain("swarms[1].id: the id 'motes' is used twice");
});

test('older versions are brought up step by step', () => {
  const steps = {
    1: (p: object) => ({ ...p, one: true }),
    2: (p: object) => ({ ...p, two: true }),
  };
  const piece = { version: 1 };
  expect(migrate(piece, steps, 3)).toEqual({ version: 3, one: true, two: true });
  expect(migrate({ version: 2 }, steps, 3)).toEqual({ version: 3, two: true });
});

test('a place that did nothing does nothing still, once it would', () => {
  const dials = { swarm: 'motes', jitter: 0.2, centre: [0, 3, 0], turn: [0, 90, 0], progress: 0.5 };
  const child = { name: 'Wake', emitter: { kind: 'swarm', dials } };
  const parent = { name: 'Motes', emitter: { kind: 'box', dials: { centre: [0, 3, 0] } } };
  const piece = {
    version: 5,
    swarms: [parent, child, { emitter: { kind: 'swarm', dials: null } }],
  };
  expect(migrate(piece)).toEqual({
    version: 12,
    sounds: [],
    pictures: [],
    media: [],
    performers: [],
    controls: [],
    cues: [],
    played: [],
    swarms: [
      parent,
      { name: 'Wake', emitter: { kind: 'swarm', dials: { swarm: 'motes', jitter: 0.2 } } },
      { emitter: { kind: 'swarm', dials: {} } },
    ],
  });
});

test('dials are set from text, and what does not fit is refused', () => {
  const piece = smallPiece();
  expect(setDial(piece, 'Motes.rate=5000').swarms[0]!.dials.rate).toBe(5000);
  expect(setDial(piece, 'motes.emitter.radius=2').swarms[0]!.emitter.dials.radius).toBe(2);
  expect(setDial(piece, 'frame.rate=60').frame.rate).toBe(60);
  expect(setDial(piece, 'motes.colour=#102030').swarms[0]!.dials.colour).toBe('#102030');
  expect(piece.swarms[0]!.dials.rate).toBe(900);
  expect(() => setDial(piece, 'nobody.rate=1')).toThrow("there is no part 'nobody'");
  expect(() => setDial(piece, 'motes.speed=1')).toThrow("has no dial 'speed'");
  expect(() => setDial(piece, 'motes.rate=-1')).toThrow('must stay within 0');
  expect(() => setDial(piece, 'rate')).toThrow("write 'part.dial=value'");
});

test('a mask of two points, a swarm of colour that is not there and a bad layer are told', () => {
  const mask = (points: number[]) =>
    problems(
      pieceText(
        smallPiece((p) => {
          p.finish[0]!.dials.mask = [{ shape: 'polygon', points }];
        }),
      ),
    );
  expect(mask([0, 0, 1, 1])).toContain('a mask needs three points at least');
  expect(mask([0, 0, 1, 1, 0])).toMatch(/three points|pairs/);
  const layers = (layer: object) =>
    problems(
      pieceText(
        smallPiece((p) => {
          const whole = { over: 'normal', amount: 1, ...layer };
          p.swarms[0]!.dials.colour = {
            feed: 'layers',
            as: 'greys',
            layers: [whole],
            stops: STOPS,
          } as never;
        }),
      ),
    );
  expect(layers({ by: 'swarm', swarm: 'ghosts' })).toContain("there is no swarm 'ghosts'");
  expect(layers({ by: 'picture', picture: 'lost' })).toContain("the stock has no 'lost'");
  expect(layers({ by: 'formula', text: 'speeed' })).toContain(
    "at character 1: 'speeed' is not known",
  );
});

const STOPS = [
  { at: 0, colour: '#000000' },
  { at: 1, colour: '#ffffff' },
];

test('a piece of version 2 has its one body as the first of several', () => {
  const now = smallPiece();
  const old: Record<string, unknown> = {
    ...now,
    version: 2,
    swarms: now.swarms.map(({ bodies, ...swarm }) => ({
      ...swarm,
      body: { kind: bodies[0]!.kind, dials: { mode: 'screen' } },
    })),
  };
  delete old.lights;
  delete old.density;
  const piece = parsePiece(JSON.stringify(old));
  expect(piece.swarms[0]!.bodies).toMatchObject([
    { id: 'disc', kind: 'disc', dials: { mode: 'screen' } },
  ]);
  expect(piece).toMatchObject({ version: 12, lights: [], density: 1 });
});

test('a piece of version 4 keeps its look: turbulence, falloffs of 0, and jostle by its old name', () => {
  const part = (kind: string, dials: object) => ({ id: kind, name: kind, on: true, kind, dials });
  const shape = [
    { x: 0, y: 0 },
    { x: 1, y: 1 },
  ];
  const old = {
    ...smallPiece(),
    version: 4,
    forces: [
      part('turbulence', { strength: { feed: 'spread', from: -3, to: 6, over: shape } }),
      part('vectorNoise', { strength: 2 }),
      part('attraction', { falloff: 0 }),
      part('vortex', {
        falloff: 0,
        spin: 90,
        pull: { feed: 'formula', text: 'time + 1', from: -4, to: 4 },
      }),
    ],
  };
  old.forces.push({ ...part('vortex', { falloff: 2, spin: 90 }), id: 'other' });
  const { forces } = parsePiece(JSON.stringify(old));
  expect(forces.map((f) => f.kind)).toEqual([
    'turbulence',
    'jostle',
    'attraction',
    'vortex',
    'vortex',
  ]);
  const { from, to } = forces[0]!.dials.strength as { from: number; to: number };
  expect(from).toBeCloseTo(-0.994, 3);
  expect(to).toBeCloseTo(1.989, 3);
  expect(forces[1]!.dials.strength).toBe(2);
  // What was left at its default was as strong as that.
  expect(forces[2]!.dials.strength).toBe(2);
  expect(forces[3]!.dials.spin).toBe(45);
  expect(forces[3]!.dials.pull).toMatchObject({ text: '(time + 1) * 0.5', from: -2, to: 2 });
  expect(forces[4]!.dials.spin).toBe(90);
});
