import { EASES } from '../../feeds/shape';
import {
  choice,
  learntDial,
  number,
  partDial,
  type BurstsDial,
  type SetsDial,
  type ShortcutDial,
} from '../../language/dials';
import { cueKind } from '../define';

const never = { varies: 'never' as const };
const [change, more, fires] = [
  { group: 'Change' },
  { group: 'What else it does' },
  { group: 'Fired by' },
];

const EASE_TITLES: Record<(typeof EASES)[number], string> = {
  smooth: 'Smooth',
  straight: 'Straight',
  rush: 'Rush',
  linger: 'Linger',
  hold: 'At the end',
};

/** All that a cue does, and what fires it. */
export const cueDials = {
  sets: {
    type: 'sets',
    title: 'Sets',
    help: 'Controls, and what each is taken to.',
    default: [],
    ...change,
  } satisfies SetsDial,
  over: number('Over', 3, [0, 3600], 'How long the change takes.', {
    unit: 's',
    ...never,
    ...change,
  }),
  ease: choice('Ease', 'smooth', EASE_TITLES, 'How it goes from where it stands.', change),
  wait: number('Waits', 0, [0, 3600], 'How long after it was fired it begins.', {
    unit: 's',
    ...never,
    ...change,
  }),
  next: choice(
    'Then',
    'rests',
    { rests: 'Rests', together: 'The next with it', after: 'The next behind it' },
    'Whether the cue below it follows on by itself.',
    change,
  ),
  bursts: {
    type: 'bursts',
    title: 'Bursts',
    help: 'Particles that are born at once.',
    default: [],
    ...more,
  } satisfies BurstsDial,
  sound: partDial('Starts', 'sounds', 'A sound that begins with it.', more),
  resets: choice(
    'Finish',
    'goesOn',
    { goesOn: 'Goes on', anew: 'Begins anew' },
    'Whether feedback and build-up forget what they have.',
    more,
  ),
  time: choice(
    'Time',
    'goesOn',
    { goesOn: 'Goes on', holds: 'Stands still', jumps: 'Jumps' },
    'What becomes of time while the piece is played; frames of the piece itself are as ever.',
    more,
  ),
  jump: number('To', 0, [0, 36_000], 'Where time goes on.', {
    unit: 's',
    ...never,
    ...more,
    when: { dial: 'time', is: ['jumps'] },
  }),
  by: choice('By time', 'no', { no: 'No', yes: 'Yes' }, 'Stands on the timing strip.', fires),
  at: number('At', 0, [0, 36_000], 'When it is fired.', {
    unit: 's',
    ...never,
    ...fires,
    when: { dial: 'by', is: ['yes'] },
  }),
  key: {
    type: 'shortcut',
    title: 'Key',
    help: 'Fires it while the piece plays.',
    default: '',
    ...fires,
  } satisfies ShortcutDial,
  learnt: learntDial(fires.group),
  signal: partDial('Signal', 'signals', 'Fires it when it rises over the threshold.', fires),
  threshold: number('Threshold', 0.5, [-1e6, 1e6], 'It fires when the signal rises over it.', {
    ...never,
    ...fires,
    when: { dial: 'signal', not: '' },
  }),
};

export const cue = cueKind({
  kind: 'cue',
  title: 'Cue',
  help: 'Takes controls to where they are wanted, in a time that ends exactly there.',
  icon: 'M5 4v16M5 5h12l-3 4l3 4H5',
  dials: cueDials,
});
