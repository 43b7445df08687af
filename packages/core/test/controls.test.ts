import {
  addressOf,
  dialsOf,
  makePart,
  makePiece,
  makeSwarm,
  NoPlace,
  parsePiece,
  pieceText,
  placeNamed,
  tidyControls,
  type Part,
  type Piece,
} from '@vast-swarm/core/piece';
import { controlProblems } from '../src/piece/controls';

function control(kind: string, name: string, places: string[] = [], dials = {}): Part {
  const part = makePart('controls', kind, []);
  const moves = places.map((place) => ({ place }));
  return { ...part, id: name.toLowerCase(), name, dials: { ...part.dials, moves, ...dials } };
}

function fire(): Piece {
  const piece = makePiece('Fire');
  piece.swarms = [{ ...makeSwarm('disc', []), id: 'fire', name: 'Fire' }];
  piece.forces = [makePart('forces', 'gravity', [])];
  return piece;
}

const GOOD = [
  'swarms.fire.rate',
  'swarms.fire.on',
  'swarms.fire.emitter.radius',
  'swarms.fire.launch.speed',
  'swarms.fire.bodies.disc.scale',
  'swarms.fire.bodies.disc.on',
  'swarms.fire.colour',
  'forces.gravity.strength',
  'forces.gravity.direction.y',
  'finish.bloom.on',
  'camera.distance',
  'backdrop.inner',
];

test.each(GOOD)('%s is a place, and its path leads back to its name', (address) => {
  const piece = fire();
  const { path } = placeNamed(piece, address);
  let value: unknown = piece;
  for (const key of path) value = (value as Record<string | number, unknown>)[key];
  expect(value).toBeDefined();
  expect(addressOf(piece, path)).toBe(address);
});

test('every dial of a piece with one of everything has a name that leads to it', () => {
  const piece = fire();
  let count = 0;
  for (const { spec, path } of dialsOf(piece)) {
    const address = addressOf(piece, spec.type === 'vector' ? [...path, 1] : path)!;
    const place = placeNamed(piece, address);
    expect(place.spec).toBe(spec);
    expect(place.path).toEqual(spec.type === 'vector' ? [...path, 1] : path);
    count += 1;
  }
  expect(count).toBeGreaterThan(60);
});

test.each([
  ['swarms.smoke.rate', "swarms have no 'smoke'; there are fire"],
  ['swarms.fire.rat', "Fire has no dial 'rat'; there are when, rate"],
  ['swarms.fire.bodies.ring.scale', "'fire' has no body 'ring'; there are disc"],
  ['forces.gravity.direction', 'write direction.x, .y or .z'],
  ['forces.gravity.strength.x', 'has no parts'],
  ['forces.gravity.constructor', "has no dial 'constructor'"],
  ['winds.a.b', "there is no 'winds'; there are camera"],
  ['', "there is no ''"],
])('%s is no place, and the answer says what there is', (address, message) => {
  expect(() => placeNamed(fire(), address)).toThrow(NoPlace);
  expect(() => placeNamed(fire(), address)).toThrow(message);
});

/** What reading a piece says is wrong with it. */
function problems(piece: Piece): string {
  try {
    parsePiece(pieceText(piece));
  } catch (error) {
    return (error as Error).message;
  }
  return '';
}

test.each([
  ['a name with a slash', [control('fader', 'Wind/left')], 'begins with a letter'],
  ['a name of 10,000 letters', [control('fader', 'x'.repeat(10_000))], 'controls[0].name'],
  ['a name with quotes', [control('fader', '"Wind"')], 'begins with a letter'],
  ['no letter at all', [control('fader', '7')], 'begins with a letter'],
  [
    'two of one name, written in two ways',
    [control('fader', 'Big wind'), control('fader', 'big-WIND')],
    "'Big wind' is called so already",
  ],
  [
    'a dial that is not there',
    [control('fader', 'Wind', ['forces.gravity.pull'])],
    "controls[0].dials.moves[0].place: Gravity has no dial 'pull'",
  ],
  [
    'two controls on one dial',
    [control('fader', 'A', ['swarms.fire.rate']), control('fader', 'B', ['swarms.fire.rate'])],
    "'swarms.fire.rate' is held by 'A' already",
  ],
  [
    'a colour that is to move a number',
    [control('colour', 'Tint', ['swarms.fire.rate'])],
    "a colour cannot move 'swarms.fire.rate'",
  ],
])('refused, and told where: %s', (_, controls, message) => {
  expect(problems({ ...fire(), controls })).toContain(message);
});

test('cues and what was played are refused where they name what is not there, or set it to what it cannot be', () => {
  const cue = makePart('cues', 'cue', []);
  const piece = { ...fire(), controls: [control('fader', 'Wind')], cues: [cue] };
  cue.dials.sets = [{ control: 'rain', to: 1 }];
  expect(problems(piece)).toContain("there is no control 'rain'; there are wind");
  cue.dials.sets = [{ control: 'wind', to: '#ff0000' }];
  expect(problems(piece)).toContain('\'Wind\' is a fader: it cannot be "#ff0000"');
  cue.dials.sets = [];
  cue.dials.bursts = [{ swarm: 'sparks', count: 10 }];
  expect(problems(piece)).toContain("there is no swarm 'sparks'");
  cue.dials.bursts = [];
  expect(problems(piece)).toBe('');
  expect(problems({ ...piece, played: [{ at: 1, cue: 'gone' }] })).toContain(
    "there is no cue 'gone'; there are cue",
  );
  const backwards = [2, 1].map((at) => ({ at, control: 'wind', to: 1 }));
  expect(problems({ ...piece, played: backwards })).toContain('in order of time');
});

test('what controls and cues name that is gone is taken out of them, and the piece can be read', () => {
  const piece = fire();
  piece.controls = [
    control('fader', 'Wind', ['forces.gravity.strength', 'swarms.fire.rate', 'swarms.fire.rate']),
  ];
  const cue = makePart('cues', 'cue', []);
  cue.dials.sets = [
    { control: 'wind', to: 1 },
    { control: 'gone', to: 1 },
  ];
  cue.dials.bursts = [{ swarm: 'sparks', count: 3 }];
  piece.cues = [cue];
  piece.played = [
    { at: 0, control: 'wind', to: 1 },
    { at: 1, control: 'wind', to: true },
    { at: 2, cue: 'gone' },
  ];
  piece.forces = [];
  const tidy = tidyControls(piece);
  expect(controlProblems(tidy)).toEqual([]);
  expect(tidyControls(tidy)).toBe(tidy);
  expect(tidy.controls[0]!.dials.moves).toEqual([{ place: 'swarms.fire.rate' }]);
  const { sets, bursts } = tidy.cues[0]!.dials;
  expect([sets, bursts]).toEqual([[{ control: 'wind', to: 1 }], []]);
  expect(tidy.played).toHaveLength(1);
});

test('a follower’s own settings can be held, and those that it follows are told', () => {
  const piece = fire();
  piece.swarms.push({
    ...structuredClone(piece.swarms[0]!),
    id: 'copy',
    follows: 'fire',
    own: ['rate'],
  });
  expect(placeNamed(piece, 'swarms.copy.rate').path).toEqual(['swarms', 1, 'dials', 'rate']);
  expect(() => placeNamed(piece, 'swarms.copy.size')).toThrow("from 'fire', which it follows");
  expect(() => placeNamed(piece, 'swarms.copy.emitter.radius')).toThrow("from 'fire'");
});
