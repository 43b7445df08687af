import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { COME_AND_GO, FADING, over, spread } from './shapes';

const follows = (signal: string, from: number, to: number) => ({
  ...{ feed: 'signal' as const, signal, from, to },
});

/** Live input: a bell of light that is blown sideways by the high end of what a microphone hears, over its own past. */
export const bellBreath = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Bell Breath',
  seed: 31,
  frame: { width: 1920, height: 1080, rate: 30, length: 480, preroll: 60 },
  backdrop: { kind: 'radial', dials: { inner: '#0a1c26', outer: '#03060b' } },
  camera: {
    kind: 'perspective',
    dials: { target: [0.35, 0, 0], distance: 4.6, azimuth: -6, elevation: 3, view: 36 },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'bell',
      name: 'Bell',
      on: true,
      emitter: {
        kind: 'outline',
        dials: { outline: 'bell', extrude: 0.12, centre: [-0.55, 0, 0] },
      },
      launch: { kind: 'allRound', dials: { speed: spread(0.005, 0.05) } },
      bodies: [
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { mode: 'add', hardness: 0.05, stretch: 0.04, gain: 0.8 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: 5200,
        lifetime: spread(0.9, 2.8),
        size: { feed: 'spread', from: 0.006, to: 0.02, over: FADING },
        opacity: over(0.75, COME_AND_GO),
        colour: {
          ...{ feed: 'gradient', by: 'life' },
          stops: [
            { at: 0, colour: '#ffcf8a', light: 2 },
            { at: 0.22, colour: '#ff8a3c', light: 2 },
            { at: 0.45, colour: '#ff5f7a', light: 1.6 },
            { at: 0.7, colour: '#2fe0d0', light: 1.8 },
            { at: 1, colour: '#3f6bff', light: 2 },
          ],
        },
        light: follows('ring', 0.6, 2.4),
      },
      copies: [],
    },
    {
      id: 'clang',
      name: 'Clang',
      on: true,
      emitter: {
        kind: 'ring',
        dials: { centre: [-0.55, -0.68, 0], radius: 0.1, width: 0.02, axis: [0, 0, 1] },
      },
      launch: { kind: 'outward', dials: { speed: spread(0.62, 0.72) } },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      ],
      dials: {
        when: 'steadily',
        rate: follows('clang', 0, 26_000),
        lifetime: spread(1.1, 2),
        size: spread(0.005, 0.012),
        opacity: over(0.6, FADING),
        colour: '#8ff5e6',
        light: spread(0.3, 1.1),
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'breath', name: 'Breath', on: true, kind: 'wind' },
      dials: { speed: follows('high', 0, 7), direction: [1, 0.1, 0.05], grip: 1.7 },
    },
    {
      ...{ id: 'swirl', name: 'Swirl', on: true, kind: 'curlNoise' },
      dials: { strength: follows('high', 0.12, 1.6), scale: 0.7, octaves: 2 },
    },
  ],
  colliders: [],
  sounds: [
    {
      ...{ id: 'microphone', name: 'Microphone', on: true, kind: 'live' },
      dials: { take: 'breath', start: 0 },
    },
  ],
  signals: [
    {
      ...{ id: 'high', name: 'Breath heard', on: true, kind: 'level' },
      dials: { sound: 'microphone', low: 3500, high: 14_000, gain: 14, rise: 0.04, fall: 0.22 },
    },
    {
      ...{ id: 'low', name: 'Bell heard', on: true, kind: 'level' },
      dials: { sound: 'microphone', low: 250, high: 1400, gain: 12, fall: 0.06 },
    },
    {
      ...{ id: 'ring', name: 'Ring', on: true, kind: 'strike' },
      dials: { signal: 'low', threshold: 0.3, least: 0.4, attack: 0, hold: 0.04, decay: 0.5 },
    },
    {
      ...{ id: 'clang', name: 'Clang', on: true, kind: 'strike' },
      dials: { signal: 'low', threshold: 0.3, least: 0.4, attack: 0, hold: 0.07, decay: 0.03 },
    },
  ],
  stock: [
    { id: 'breath', name: 'Bell and breath, take', type: 'sound', source: { made: 'bellBreath' } },
    {
      ...{ id: 'bell', name: 'Bell', type: 'outline' },
      source: {
        path: 'M-0.66 0.56 C-0.46 0.4 -0.46 -0.06 -0.38 -0.36 C-0.3 -0.66 -0.15 -0.76 0 -0.76 C0.15 -0.76 0.3 -0.66 0.38 -0.36 C0.46 -0.06 0.46 0.4 0.66 0.56 Z M-0.13 0.68 a0.13 0.13 0 1 0 0.26 0 a0.13 0.13 0 1 0 -0.26 0 Z M-0.09 -0.86 a0.09 0.09 0 1 0 0.18 0 a0.09 0.09 0 1 0 -0.18 0 Z',
      },
    },
  ],
  influence: { breath: { clang: 0.35 }, swirl: { clang: 0.3 } },
  finish: [
    {
      ...{ id: 'feedback', name: 'Feedback', on: true, kind: 'feedback' },
      dials: { fade: 0.8, across: follows('high', 0.0005, 0.012), scale: 1.002, soften: 0.003 },
    },
    ...showFinish(0.7, 1.1),
  ],
});
