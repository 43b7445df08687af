import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';

/** Bursts and collisions: hail comes down in squalls, rattles over the stone and gathers in the basin. */
export const hailOnTheSlipway = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Hail on the Slipway',
  seed: 23,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 75 },
  backdrop: {
    kind: 'radial',
    dials: { inner: '#0d1c2c', outer: '#020407', centreX: 0.62, centreY: 0.3, radius: 1 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      target: [0.1, 0.25, 0],
      distance: 5.9,
      azimuth: 26,
      elevation: 15,
      view: 42,
      near: 0.5,
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'stone',
      name: 'Wet stone',
      on: true,
      emitter: { kind: 'mesh', dials: { mesh: 'slipway', from: 'faces' } },
      launch: { kind: 'normal', dials: { speed: 0 } },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      ],
      dials: {
        when: 'bursts',
        burst: 16000,
        lasts: 'ever',
        size: { feed: 'spread', from: 0.012, to: 0.05 },
        opacity: 0.6,
        colour: {
          feed: 'gradient',
          by: 'formula',
          text: '(x + 3) / 6 + 0.12 * noise(z * 3)',
          stops: [
            { at: 0, colour: '#c8702c', light: 0.55 },
            { at: 0.4, colour: '#3c4f6e', light: 0.5 },
            { at: 1, colour: '#16405c', light: 0.6 },
          ],
        },
        light: { feed: 'spread', from: 0.5, to: 1.6 },
      },
      copies: [],
    },
    {
      id: 'hail',
      name: 'Hail',
      on: true,
      emitter: { kind: 'box', dials: { size: [5.4, 0.3, 3], centre: [-0.4, 3.6, 0] } },
      launch: {
        kind: 'cone',
        dials: { speed: { feed: 'spread', from: 3, to: 5 }, direction: [0.28, -1, 0.06], angle: 5 },
      },
      bodies: [
        {
          id: 'disc',
          name: 'Disc',
          on: true,
          kind: 'disc',
          dials: { mode: 'add', hardness: 0.45 },
        },
        {
          id: 'streak',
          name: 'Streak',
          on: true,
          kind: 'streak',
          dials: { mode: 'add', stretch: 0.035, wide: 0.6, gain: 0.7 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: { feed: 'signal', signal: 'squall', from: 300, to: 5200 },
        lifetime: { feed: 'spread', from: 2.6, to: 5.5 },
        mass: 1,
        resistance: { feed: 'spread', from: 0.7, to: 1.6 },
        size: { feed: 'spread', from: 0.018, to: 0.05, distribution: 'normal' },
        opacity: {
          feed: 'fixed',
          value: 0.95,
          over: [
            { x: 0, y: 0 },
            { x: 0.04, y: 1 },
            { x: 0.7, y: 0.9 },
            { x: 1, y: 0 },
          ],
        },
        colour: {
          feed: 'gradient',
          by: 'formula',
          text: 'speed / 7',
          stops: [
            { at: 0, colour: '#ff8a42', light: 0.16 },
            { at: 0.1, colour: '#ffc890', light: 0.5 },
            { at: 0.4, colour: '#bfe6ff', light: 0.9 },
            { at: 1, colour: '#4f8ee0', light: 0.8 },
          ],
        },
        light: { feed: 'spread', from: 0.7, to: 1.5 },
      },
      copies: [],
    },
    {
      id: 'spray',
      name: 'Ice dust',
      on: true,
      emitter: { kind: 'swarm', dials: { swarm: 'hail', jitter: 0.03, share: 0.3 } },
      launch: { kind: 'allRound', dials: { speed: { feed: 'spread', from: 0, to: 0.5 } } },
      bodies: [{ id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add' } }],
      dials: {
        when: 'steadily',
        rate: 9000,
        lifetime: { feed: 'spread', from: 0.5, to: 1.6 },
        resistance: 4,
        size: { feed: 'spread', from: 0.006, to: 0.014 },
        opacity: {
          feed: 'fixed',
          value: 0.5,
          over: [
            { x: 0, y: 1 },
            { x: 1, y: 0 },
          ],
        },
        colour: '#9fd0ff',
        light: 0.8,
      },
      copies: [],
    },
  ],
  forces: [
    { id: 'fall', name: 'Fall', on: true, kind: 'gravity', dials: { strength: 6.5 } },
    { id: 'air', name: 'Air', on: true, kind: 'drag', dials: { amount: 0.25 } },
    {
      id: 'gust',
      name: 'Gust',
      on: true,
      kind: 'wind',
      dials: {
        speed: { feed: 'signal', signal: 'squall', from: 0, to: 1.6 },
        direction: [1, 0, 0.2],
        grip: 0.3,
      },
    },
  ],
  colliders: [
    {
      id: 'slope',
      name: 'Slipway',
      on: true,
      kind: 'mesh',
      dials: {
        mesh: 'slipway',
        detail: 56,
        bounce: 0.42,
        friction: 0.12,
        roughness: 0.28,
        thickness: 0.05,
      },
    },
    {
      id: 'sea',
      name: 'Harbour bed',
      on: true,
      kind: 'plane',
      dials: { acts: 'zone', side: 'inside', does: 'die', centre: [0, -2.2, 0] },
    },
  ],
  sounds: [],
  signals: [
    {
      id: 'squall',
      name: 'Squall',
      on: true,
      kind: 'wave',
      dials: { shape: 'sine', period: 5, phase: 0.1, rest: 0.2 },
    },
  ],
  stock: [{ id: 'slipway', name: 'Slipway', type: 'mesh', source: { made: 'slipway' } }],
  influence: {
    fall: { stone: 0 },
    air: { stone: 0 },
    gust: { stone: 0 },
    slope: { stone: 0, spray: 0 },
    sea: { stone: 0 },
  },
  finish: showFinish(0.5, 0.9),
});
