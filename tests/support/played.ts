import { makePart, type Part, type Piece, type Played } from '@vast-swarm/core/piece';
import { smallPiece } from './pieces';

/** A piece that is run by controls and cues, and what is played of it. */

export function control(
  kind: string,
  id: string,
  places: string[],
  dials: Part['dials'] = {},
): Part {
  const part = makePart('controls', kind, []);
  const moves = places.map((place) => ({ place }));
  return { ...part, id, name: id, dials: { ...part.dials, moves, ...dials } };
}

export function cue(id: string, dials: Part['dials']): Part {
  const part = makePart('cues', 'cue', []);
  return { ...part, id, name: id, dials: { ...part.dials, ...dials } };
}

/** A piece with a control of every sort, and a cue that does everything. */
export function played(change: (piece: Piece) => void = () => undefined): Piece {
  return smallPiece((p) => {
    p.frame.length = 90;
    p.forces = [makePart('forces', 'wind', [])];
    p.finish.push(makePart('finish', 'feedback', []));
    p.controls = [
      control('fader', 'rate', [], {
        moves: [{ place: 'swarms.motes.rate', from: 200, to: 3000 }],
        rest: 0.2,
      }),
      control('fader', 'octaves', ['swarms.motes.burst'], {
        moves: [{ place: 'swarms.motes.limit', from: 4000, to: 4400 }],
      }),
      control('switch', 'wind', ['forces.wind.on'], { rest: 'off' }),
      control('switch', 'echo', ['finish.feedback.on'], { rest: 'on' }),
      control('colour', 'tint', ['swarms.motes.colour'], { rest: '#40a0ff' }),
      control('option', 'mode', ['swarms.motes.bodies.disc.mode'], { rest: 'add' }),
    ];
    p.cues = [
      cue('all', {
        sets: [
          { control: 'rate', to: 1 },
          { control: 'wind', to: true },
          { control: 'tint', to: '#ff8020' },
          { control: 'octaves', to: 1 },
        ],
        over: 1,
        bursts: [{ swarm: 'motes', count: 300 }],
        resets: 'anew',
      }),
      cue('back', { sets: [{ control: 'wind', to: false }], over: 0, by: 'yes', at: 2 }),
    ];
    change(p);
  });
}

/** What is played of it: everything at once, overtaken, switched to and fro. */
export const EVENTS: Played[] = [
  { at: 10 / 30, cue: 'all' },
  { at: 25 / 30, control: 'rate', to: 0.1 },
  { at: 40 / 30, control: 'echo', to: false },
  { at: 50 / 30, control: 'echo', to: true },
  { at: 55 / 30, control: 'mode', to: 'normal' },
  { at: 70 / 30, cue: 'all' },
];
