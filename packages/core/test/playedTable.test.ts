import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { offerOf, playedTable, readPlayed, TableError } from '@vast-swarm/core/formats';
import type { Piece, Played } from '@vast-swarm/core/piece';

const barge = DEMO_SHOW.pieces.find((p) => p.id === 'ember-barge')!.piece;
const salt = barge.controls.find((c) => c.id === 'flame')!.dials.rest;

const PLAYED: Played[] = [
  { at: 0.1, control: 'spread', to: 0.1 + 0.2, over: 3, ease: 'rush' },
  { at: 1 / 3, cue: 'gust' },
  { at: 2, control: 'smoke', to: false },
  { at: 2, control: 'flame', to: salt as never, over: 0.5 },
  { at: 1e-7 + 7, control: 'wind', to: -3.999999999 },
];

test('what was played comes back from its table, bit for bit', () => {
  const piece: Piece = { ...barge, played: PLAYED };
  const text = playedTable(piece);
  expect(text.split('\r\n')[0]).toBe('time,name,value,over,ease');
  expect(text).toContain('\r\n2,smoke,off,,\r\n');
  expect(readPlayed(offerOf(piece), text)).toEqual(PLAYED);
});

test('a table written elsewhere: other order, other case, a byte-order mark, more columns, empty lines', () => {
  const text = '\uFEFFName, Value ,TIME,note\n"Gust",,4,x\n\nSPREAD,1,2.5,\nSmoke,On,3,\n'.replace(
    'On',
    'on',
  );
  expect(readPlayed(offerOf(barge), text)).toEqual([
    { at: 2.5, control: 'spread', to: 1 },
    { at: 3, control: 'smoke', to: true },
    { at: 4, cue: 'gust' },
  ]);
});

test.each([
  ['time,name\n1,spread', "line 1: there is no column 'value'"],
  ['', "line 1: there is no column 'time'"],
  ['time,name,value\nsoon,spread,1', "line 2: 'soon' is no time"],
  ['time,name,value\n,spread,1', 'line 2: it has no time'],
  [
    'time,name,value\n1,spread,1\n2,sprad,1',
    'line 3: there is no control "sprad"; there are spread',
  ],
  ['time,name,value\n1,spread,2', 'line 2: spread is a number from 0 to 1; it cannot be 2'],
  ['time,name,value\n1,spread,', 'line 2: spread is a number from 0 to 1; it cannot be ""'],
  ['time,name,value,over\n1,spread,1,long', "line 2: 'long' is no duration"],
  ['time,name,value,ease\n1,spread,1,slow', "line 2: there is no ease 'slow'; there are straight"],
])('told with its line: %j', (text, message) => {
  expect(() => readPlayed(offerOf(barge), text)).toThrow(TableError);
  expect(() => readPlayed(offerOf(barge), text)).toThrow(message);
});

test('of very many bad lines some are told', () => {
  const text = `time,name,value\n${'1,gone,1\n'.repeat(5000)}`;
  expect(() => readPlayed(offerOf(barge), text)).toThrow(
    /line 2: [^]*line 11: [^]*and 4990 more lines/,
  );
});
