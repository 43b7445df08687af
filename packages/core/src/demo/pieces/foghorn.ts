import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { FADING, over } from './shapes';

const follows = (signal: string, from: number, to: number) => ({
  ...{ feed: 'signal' as const, signal, from, to },
});

/** Sound: every beat of a boat's engine throws a lantern that is carried along the mole; the fog signal calls. */
export const foghorn = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Foghorn',
  seed: 77,
  frame: { width: 1920, height: 1080, rate: 30, length: 720, preroll: 60 },
  backdrop: { kind: 'linear', dials: { first: '#03050b', last: '#0a1f2a', reach: 1.2 } },
  camera: {
    kind: 'perspective',
    dials: { target: [0, 0.55, 0], distance: 6, azimuth: 14, elevation: 8, orbit: -1.2, view: 40 },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'lantern',
      name: 'Lantern',
      on: true,
      emitter: {
        kind: 'sphere',
        dials: {
          radius: 0.06,
          fill: 'inside',
          along: 'mole',
          progress: { feed: 'formula', text: 'time / 24', from: 0, to: 1 },
          centre: [0, follows('throw', 0, 0.85), 0],
        },
      },
      launch: {
        kind: 'outward',
        dials: { speed: { feed: 'spread', from: 0.05, to: 0.5 }, inherit: 0.22 },
      },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0.1 } },
        {
          ...{ id: 'trail', name: 'Trail', on: true, kind: 'trail' },
          dials: { mode: 'add', length: 14, width: over(0.7, FADING), gain: 0.5 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: follows('throw', 500, 4200),
        lifetime: { feed: 'spread', from: 1.2, to: 3.4 },
        size: { feed: 'spread', from: 0.008, to: 0.026 },
        opacity: over(0.9, FADING),
        // The engine is warm, the horn green, the bell blue.
        colour: {
          ...{ feed: 'channels', evaluate: 'birth' },
          red: { signal: 'colours.1', from: 0.03, to: 1.7 },
          green: { signal: 'colours.2', from: 0, to: 3.6 },
          blue: { signal: 'colours.3', from: 0.02, to: 5 },
        },
        light: { feed: 'spread', from: 0.4, to: 1.6 },
      },
      copies: [],
    },
    {
      id: 'call',
      name: 'Call of the horn',
      on: true,
      emitter: {
        kind: 'ring',
        dials: { centre: [1.9, 1.15, -1.6], radius: 0.12, width: 0.02, axis: [-0.35, 0.12, 1] },
      },
      launch: { kind: 'outward', dials: { speed: { feed: 'spread', from: 0.95, to: 1.05 } } },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      ],
      dials: {
        when: 'steadily',
        rate: follows('call', 0, 32_000),
        lifetime: { feed: 'spread', from: 2.4, to: 3.6 },
        size: { feed: 'spread', from: 0.007, to: 0.018 },
        opacity: over(0.5, FADING),
        colour: {
          feed: 'gradient',
          by: 'life',
          stops: [
            { at: 0, colour: '#ffe2a6', light: 1.6 },
            { at: 0.4, colour: '#ff9b4a', light: 0.9 },
            { at: 1, colour: '#5a3a8f', light: 0.8 },
          ],
        },
        light: { feed: 'spread', from: 0.3, to: 1.2 },
      },
      copies: [],
    },
    {
      id: 'bells',
      name: 'Bell buoy',
      on: true,
      emitter: {
        kind: 'ring',
        dials: { centre: [-1.9, 0.02, 1], radius: 0.12, width: 0.01, axis: [0, 1, 0] },
      },
      launch: { kind: 'outward', dials: { speed: { feed: 'spread', from: 0.42, to: 0.46 } } },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      ],
      dials: {
        when: 'steadily',
        rate: follows('ring', 0, 9000),
        lifetime: { feed: 'spread', from: 1.8, to: 2.6 },
        size: { feed: 'spread', from: 0.007, to: 0.015 },
        opacity: over(0.8, FADING),
        colour: '#8ff0e0',
        light: { feed: 'spread', from: 0.4, to: 1.6 },
      },
      copies: [],
    },
    {
      id: 'water',
      name: 'Water',
      on: true,
      emitter: { kind: 'rectangle', dials: { width: 12, depth: 6, centre: [0, 0, -0.4] } },
      launch: { kind: 'allRound', dials: { speed: 0.02 } },
      bodies: [
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { mode: 'add', facing: 'fixed', wide: 5, high: 0.5, gain: 0.9 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: 4200,
        lifetime: { feed: 'spread', from: 3, to: 6 },
        size: { feed: 'spread', from: 0.008, to: 0.02 },
        opacity: over(0.5, FADING),
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#0d3a4c', light: 0.8 },
            { at: 0.8, colour: '#2a8a98', light: 0.8 },
            { at: 1, colour: '#ffd9a0', light: 1.6 },
          ],
        },
        light: follows('colours.1', 0.35, 1.9),
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'fall', name: 'Fall', on: true, kind: 'gravity' },
      dials: { strength: 0.7 },
    },
    {
      ...{ id: 'air', name: 'Night air', on: true, kind: 'curlNoise' },
      dials: { strength: 0.22, scale: 0.9, octaves: 2 },
    },
    { id: 'thick', name: 'Thick air', on: true, kind: 'drag', dials: { amount: 0.6 } },
  ],
  colliders: [
    {
      ...{ id: 'sea', name: 'Sea', on: true, kind: 'plane' },
      dials: { centre: [0, -0.02, 0], bounce: 0.25, friction: 0.4 },
    },
  ],
  sounds: [{ id: 'quay', name: 'Quay', on: true, kind: 'played', dials: { sound: 'fogSignal' } }],
  signals: [
    {
      ...{ id: 'engine', name: 'Engine', on: true, kind: 'level' },
      dials: { sound: 'quay', low: 30, high: 90, gain: 12, fall: 0.05 },
    },
    {
      ...{ id: 'throw', name: 'Throw', on: true, kind: 'strike' },
      dials: {
        signal: 'engine',
        threshold: 0.4,
        delay: 0.06,
        least: 0.3,
        attack: 0.07,
        decay: 0.45,
      },
    },
    {
      ...{ id: 'colours', name: 'Colours', on: true, kind: 'bands' },
      dials: { sound: 'quay', low: 60, high: 6000, count: 3, gain: 14, fall: 0.2 },
    },
    {
      ...{ id: 'horn', name: 'Horn', on: true, kind: 'level' },
      dials: { sound: 'quay', low: 105, high: 260, gain: 16, rise: 0.05, fall: 0.2 },
    },
    {
      ...{ id: 'call', name: 'Call', on: true, kind: 'follow' },
      // The boat's engine is heard there as well: only what is over it counts.
      dials: { signal: 'horn', gain: 1.7, offset: -0.55, limit: 'clamp' },
    },
    {
      ...{ id: 'bell', name: 'Bell', on: true, kind: 'level' },
      dials: { sound: 'quay', low: 1400, high: 4000, gain: 24, fall: 0.03 },
    },
    {
      ...{ id: 'ring', name: 'Ring', on: true, kind: 'strike' },
      dials: { signal: 'bell', threshold: 0.3, least: 0.5, attack: 0, hold: 0.05, decay: 0.12 },
    },
  ],
  stock: [
    { id: 'fogSignal', name: 'Fog signal', type: 'sound', source: { made: 'fogSignal' } },
    {
      ...{ id: 'mole', name: 'Mole', type: 'outline' },
      source: { path: 'M-2.9 -0.12 C-1.4 -0.12 -0.6 -0.2 0.2 -0.2 S2 -0.14 2.9 -0.3' },
    },
  ],
  influence: {
    fall: { call: 0, bells: 0, water: 0 },
    air: { bells: 0.2, water: 0.3, call: 0.4 },
    sea: { call: 0, bells: 0, water: 0 },
    thick: { call: 0.2, bells: 0.5, water: 1 },
  },
  finish: showFinish(0.5, 0.8),
});
