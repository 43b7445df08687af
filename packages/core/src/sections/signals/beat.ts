import { choice, number } from '../../language/dials';
import { signal } from '../define';
import { never, ranged, signalRange } from './range';

type BeatShape = 'pulse' | 'saw' | 'triangle' | 'steps';

export const beat = signal({
  kind: 'beat',
  title: 'Beat',
  help: 'A tempo: a pulse, a saw, a triangle or steps, beat by beat.',
  icon: 'M8 20l2-15h4l2 15zM12 15l6-9M9 15h6',
  dials: {
    tempo: number('Tempo', 120, [10, 400], 'Beats a minute.', { unit: '/min', ...never }),
    every: number('Every', 1, [1, 64], 'Beats from one to the next.', {
      unit: 'beats',
      whole: true,
    }),
    first: number('First beat', 0, [-60, 3600], 'When it comes.', { unit: 's', ...never }),
    swing: number('Swing', 0, [0, 0.9], 'How far every other comes too late.', never),
    shape: choice(
      'Shape',
      'pulse',
      { pulse: 'Pulse', saw: 'Falls', triangle: 'Up and down', steps: 'Steps' },
      'What it does from one to the next.',
    ),
    width: number('Width', 0.1, [0.01, 1], 'The part of the time that a pulse lasts.', {
      ...never,
      when: { dial: 'shape', is: ['pulse'] },
    }),
    count: number('Steps', 4, [2, 64], 'Up to its highest, then it begins again.', {
      whole: true,
      when: { dial: 'shape', is: ['steps'] },
    }),
    ...signalRange,
  },
  bench: { tempo: ['tempo', 'first'] },
  follow(dials) {
    const { tempo, every, first, swing, width, count } = dials;
    const seconds = (60 / tempo) * every;
    const to = ranged(dials);
    const shapes: Record<BeatShape, (beats: number, into: number) => number> = {
      pulse: (_, into) => (into < width ? 1 : 0),
      saw: (_, into) => 1 - into,
      triangle: (_, into) => 1 - Math.abs(2 * into - 1),
      steps: (beats) => (beats - count * Math.floor(beats / count)) / (count - 1),
    };
    const shape = shapes[dials.shape];
    return (time) => {
      // Where a time falls on a beat, rounding is not to leave it before.
      const at = (time - first) / seconds + 1e-9;
      // Beats in pairs, of which the second comes in the middle or later.
      const pair = Math.floor(at / 2);
      const into = at - 2 * pair;
      const middle = 1 + swing;
      const second = into >= middle;
      const part = second ? (into - middle) / (2 - middle) : into / middle;
      return to(shape(2 * pair + (second ? 1 : 0), part));
    };
  },
});
