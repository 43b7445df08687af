import { DEMO_SHOW } from '@vast-swarm/core/demo';
import {
  doneIn,
  makeEntry,
  makeShow,
  nightTable,
  parseShow,
  playedIn,
  readNight,
  readStretch,
  showText,
  validateShow,
  type NightRow,
  type Show,
} from '@vast-swarm/core/show';
import { offerOf, showOffer, TableError, wholeAct } from '@vast-swarm/core/formats';
import { PieceError, type Piece } from '@vast-swarm/core/piece';
import { Scene } from '@vast-swarm/core/plan';
import { control, cue } from '../../../tests/support/played';
import { smallPiece } from '../../../tests/support/pieces';

const barge = DEMO_SHOW.pieces.find((p) => p.id === 'ember-barge')!.piece;
const pieceOf = (id: string): Piece | null =>
  DEMO_SHOW.pieces.find((p) => p.id === id)?.piece ?? null;

const ROWS: NightRow[] = [
  { time: 0, stretch: 0, entry: 'ember-barge', at: 0, act: { all: 'go', entry: 'ember-barge' } },
  {
    time: 1.5,
    stretch: 1,
    entry: 'ember-barge',
    at: 1.5,
    act: { control: 'spread', to: 1, over: 3 },
  },
  { time: 2, stretch: 1, entry: 'ember-barge', at: 2, act: { cue: 'gust' } },
  { time: 2.25, stretch: 1, entry: 'ember-barge', at: 2.2, act: { control: 'smoke', to: false } },
  {
    time: 3,
    stretch: 1,
    entry: 'ember-barge',
    at: 3,
    act: {
      control: 'flame',
      to: [
        { at: 0, colour: '#ffcc00' },
        { at: 1, colour: '#ff0000' },
      ],
      ease: 'rush',
    },
  },
  {
    time: 4,
    stretch: 1,
    entry: 'ember-barge',
    at: 4,
    act: { all: 'brightness', to: 0.25, over: 2 },
  },
  { time: 5, stretch: 1, entry: 'ember-barge', at: 5, act: { all: 'held', to: true } },
  { time: 5.5, stretch: 1, entry: 'ember-barge', at: 5, act: { all: 'held', to: false } },
  { time: 6, stretch: 1, entry: 'ember-barge', at: 5.5, act: { all: 'speed', to: 0.5 } },
  { time: 7, stretch: 1, entry: 'ember-barge', at: 6, act: { all: 'jump', to: 30 } },
  { time: 7, stretch: 2, entry: 'ember-barge', at: -3600, act: { control: 'spread', to: 0.75 } },
  { time: 8, stretch: 2, entry: 'ember-barge', at: 2, act: { all: 'blackout', to: true } },
  { time: 9, stretch: 2, entry: 'ember-barge', at: 2.5, act: { all: 'go', entry: 'foghorn' } },
];

test('what happened in a night is the same out of its table, and apart by stretches', () => {
  const table = nightTable(DEMO_SHOW.show, ROWS, pieceOf);
  expect(table.split('\r\n')[0]).toBe('time,name,value,over,ease,stretch,entry,at,piece');
  expect(table).toContain('\r\n1.500,spread,1,3,,1,ember-barge,1.5,Ember Barge\r\n');
  expect(table).toContain('\r\n2.000,gust,,,,1,ember-barge,2,Ember Barge\r\n');
  expect(readNight(DEMO_SHOW.show, table, pieceOf)).toEqual(ROWS);
  const played = playedIn(ROWS, 1);
  expect(played.map((p) => p.at)).toEqual([1.5, 2, 2.2, 3]);
  expect(played[0]).toEqual({ at: 1.5, control: 'spread', to: 1, over: 3 });
  expect(doneIn(ROWS, 2).map((d) => d.act.all)).toEqual(['blackout', 'go']);
});

test('a stretch of a night is played of its piece, by itself', () => {
  const table = nightTable(DEMO_SHOW.show, ROWS, pieceOf);
  expect(readStretch(offerOf(barge), table, 1)).toEqual(playedIn(ROWS, 1));
  // A spreadsheet may have sorted its lines by something else.
  const [head, ...lines] = table.trimEnd().split('\n');
  const turned = [head, ...lines.reverse()].join('\n');
  expect(readStretch(offerOf(barge), turned, 1)).toEqual(playedIn(ROWS, 1));
  expect(readStretch(offerOf(barge), table, 2)).toEqual(playedIn(ROWS, 2));
  expect(() => readStretch(offerOf(barge), table, 9)).toThrow('there is no stretch 9 in it');
  const foghorn = offerOf(pieceOf('foghorn')!);
  expect(() => readStretch(foghorn, table, 1)).toThrow(/line 3: there is no control "spread"/);
});

test.each([
  ['1,spread,2,,,1,ember-barge,1,', /line 2: spread is a number from 0 to 1/],
  ['1,nobody,2,,,1,ember-barge,1,', /line 2: there is no control "nobody"; there are .*spread/],
  ['1,spread,1,,,1,nowhere,1,', /line 2: there is no entry 'nowhere'/],
  ['x,spread,1,,,1,ember-barge,1,', /line 2: 'x' is no time/],
  ['1,spread,1,,,,ember-barge,1,', /line 2: there is nothing in its column 'stretch'/],
  ['1,show/dance,1,,,1,ember-barge,1,', /line 2: there is no 'show\/dance'/],
])('a line of a night that cannot be read says why: %s', (line, why) => {
  const text = `time,name,value,over,ease,stretch,entry,at,piece\r\n${line}\r\n`;
  const read = () => readNight(DEMO_SHOW.show, text, pieceOf);
  expect(read).toThrow(TableError);
  expect(read).toThrow(why);
});

test('the demo show plays all of its pieces, and its file reads back', () => {
  const { show, pieces } = DEMO_SHOW;
  expect(new Set(show.entries.map((e) => e.piece))).toEqual(new Set(pieces.map((p) => p.id)));
  for (const { next, cue: id, piece } of show.entries) {
    if (next === 'cue') expect(pieceOf(piece)!.cues.map((c) => c.id)).toContain(id);
  }
  expect(parseShow(showText(show))).toEqual(show);
  expect(validateShow(show)).toEqual(show);
});

test.each([
  ['no show', '{"format": "vast-swarm piece"}', /should be 'vast-swarm show'/],
  ['of a newer version', '{"format": "vast-swarm show", "version": 2}', /version 2/],
  ['cut off', '{"format": "vast-swarm show",', /line 1: This is not JSON/],
])('a file that is %s is refused with what and where', (_, text, why) => {
  expect(() => parseShow(text)).toThrow(PieceError);
  expect(() => parseShow(text)).toThrow(why);
});

test('what is wrong in a show says its line', () => {
  const show: Show = { ...makeShow('Any'), entries: [makeEntry('a', '1'), makeEntry('b', '2')] };
  const twice = { ...show, entries: [makeEntry('a', '1'), makeEntry('b', '1')] };
  expect(() => parseShow(showText(twice))).toThrow(/entries: two entries have the same id/);
  const slow = showText(show).replace('"fade": 2', '"fade": -2');
  const line = slow.split('\n').findIndex((l) => l.includes('-2')) + 1;
  expect(() => parseShow(slow)).toThrow(new RegExp(`line ${String(line)}, entries\\[0\\].fade`));
});

test('a show offers its masters and its pieces beside what the present piece has', () => {
  const offer = showOffer(barge, [{ id: 'e1', name: 'Foghorn' }]);
  const own = offerOf(barge);
  expect(offer.controls.map((c) => c.name)).toEqual([
    'master-brightness',
    'master-speed',
    ...own.controls.map((c) => c.name),
  ]);
  expect(offer.pieces).toEqual([{ id: 'e1', name: 'Foghorn' }]);
  expect(showOffer(null, []).cues).toEqual([]);
  expect(wholeAct({ control: '/brightness', to: 0.5, over: 2 })).toEqual({
    all: 'brightness',
    to: 0.5,
    over: 2,
  });
  expect(wholeAct({ control: '/speed', to: 2 })).toEqual({ all: 'speed', to: 2 });
  expect(wholeAct({ control: 'spread', to: 2 })).toBeNull();
  expect(wholeAct({ cue: 'gust' })).toBeNull();
});

test.each([24, 30, 59.94, 60])(
  'where time jumps, controls go on as they stand and arrive when they would have, at %f frames a second',
  (rate) => {
    const piece = smallPiece((p) => {
      Object.assign(p.frame, { rate, length: 2000 });
      p.controls = [
        control('fader', 'spread', [], { rest: 0.1 }),
        control('switch', 'smoke', [], { rest: 'on' }),
        control('colour', 'tint', [], { rest: '#102030' }),
      ];
      const dials = { sets: [{ control: 'spread', to: 0.9 }], over: 4, ease: 'straight' };
      p.cues = [cue('out', dials)];
      p.played = [
        { at: 1, cue: 'out' },
        { at: 2, control: 'smoke', to: false },
        { at: 2.5, control: 'tint', to: '#ffffff', over: 1 },
      ];
    });
    const before = new Scene(piece).score!;
    for (const leave of [0.5, 1, 2.6, 3, 4.99, 5, 20].map((s) => Math.round(s * rate) / rate)) {
      for (const to of [0, Math.round(1.5 * rate) / rate, 30]) {
        const played = before.carried(leave, to);
        const after = new Scene({ ...piece, played }).score!;
        expect(after.at('spread', to) as number).toBeCloseTo(
          before.at('spread', leave) as number,
          5,
        );
        for (const id of ['smoke', 'tint']) {
          expect(after.at(id, to)).toEqual(before.at(id, leave));
        }
        for (const id of ['spread', 'smoke', 'tint']) {
          // All the way to it they are as they stand.
          expect(after.at(id, to - 1)).toEqual(before.at(id, leave));
        }
        for (const on of [0.2, 1, 2, 5].map((s) => Math.round(s * rate) / rate)) {
          const [now, then] = [after.at('spread', to + on), before.at('spread', leave + on)];
          // From where the cue has begun on; before, it is none of what is carried.
          if (leave > 1) expect(now as number).toBeCloseTo(then as number, 5);
          else expect(now).toBe(before.at('spread', leave));
        }
        if (leave > 1) expect(after.at('spread', to + 6)).toBe(0.9);
      }
    }
  },
);
