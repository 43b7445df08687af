import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';

/** Lattice and mesh copies: a block of salt is stirred up, and settles back crystal by crystal. */
export const saltCubes = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Salt Cubes',
  seed: 8,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 0 },
  backdrop: {
    kind: 'radial',
    dials: { inner: '#27343c', outer: '#06090d', centreY: 0.52, radius: 0.9 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      target: [0, 0, 0],
      distance: 6.6,
      azimuth: 32,
      elevation: 22,
      orbit: -7,
      view: 38,
      near: 0.5,
    },
  },
  lights: [
    {
      ...{ id: 'moon', name: 'Moon', on: true, kind: 'key' },
      dials: {
        colour: '#dcefff',
        strength: 0.62,
        azimuth: -30,
        elevation: 52,
        shadow: 0.7,
        floor: -1.75,
      },
    },
    {
      ...{ id: 'quay', name: 'Quay lamp', on: true, kind: 'fill' },
      dials: { colour: '#ff9a4c', strength: 0.75, azimuth: 75, elevation: 8 },
    },
    {
      ...{ id: 'rim', name: 'Rim', on: true, kind: 'rim' },
      dials: { colour: '#58d8c8', strength: 0.9, azimuth: 190, elevation: 25, held: 'camera' },
    },
    {
      ...{ id: 'night', name: 'Night', on: true, kind: 'ambient' },
      dials: { colour: '#1c3a4a', strength: 0.55 },
    },
  ],
  density: 1,
  swarms: [
    {
      id: 'salt',
      name: 'Salt',
      on: true,
      emitter: {
        kind: 'lattice',
        dials: { columns: 13, rows: 13, layers: 13, spacing: [0.195, 0.195, 0.195] },
      },
      launch: { kind: 'allRound', dials: { speed: 0 } },
      bodies: [
        {
          id: 'crystal',
          name: 'Crystal',
          on: true,
          kind: 'mesh',
          dials: {
            ...{ mode: 'opaque', form: 'mesh', mesh: 'crystal', gloss: 0.9, axis: 'random' },
            turn: {
              feed: 'formula',
              text: '70 * smooth(0.05, 1.2, speed) * sin(time * 1.3 + index)',
              from: -180,
              to: 180,
            },
          },
        },
      ],
      dials: {
        when: 'once',
        lasts: 'ever',
        size: { feed: 'spread', from: 0.135, to: 0.172 },
        opacity: 0.92,
        colour: {
          feed: 'gradient',
          by: 'formula',
          text: '0.1 + speed * 0.42 + 0.12 * y + 0.12 * random',
          stops: [
            { at: 0, colour: '#22405a', light: 0.5 },
            { at: 0.2, colour: '#9fc2cc', light: 0.55 },
            { at: 0.45, colour: '#fff4e2', light: 0.75 },
            { at: 0.75, colour: '#ffae63', light: 1.2 },
            { at: 1, colour: '#ff6a3c', light: 1.8 },
          ],
        },
        light: { feed: 'spread', from: 0.75, to: 1.15 },
      },
      copies: [],
    },
  ],
  forces: [
    {
      id: 'settle',
      name: 'Settle',
      on: true,
      kind: 'home',
      dials: { stiffness: { feed: 'signal', signal: 'stir', from: 9, to: 1.6 }, damping: 1.6 },
    },
    {
      id: 'stirring',
      name: 'Stirring',
      on: true,
      kind: 'vortex',
      dials: {
        axis: [0.25, 1, 0],
        spin: { feed: 'signal', signal: 'stir', from: 0, to: 190 },
        radius: 2.4,
        falloff: 1.5,
        acts: 'push',
        grip: 2.2,
        share: { feed: 'signal', signal: 'stir', from: 0, to: 1 },
      },
    },
    {
      id: 'scatter',
      name: 'Scatter',
      on: true,
      kind: 'turbulence',
      dials: {
        strength: { feed: 'signal', signal: 'stir', from: 0, to: 6.5 },
        scale: 1.3,
        octaves: 1,
        change: 0.5,
      },
    },
  ],
  colliders: [
    {
      id: 'pan',
      name: 'Salt pan',
      on: true,
      kind: 'plane',
      dials: { centre: [0, -1.75, 0], bounce: 0.2, friction: 0.2 },
    },
  ],
  sounds: [],
  signals: [
    {
      id: 'stir',
      name: 'Stir',
      on: true,
      kind: 'keyframes',
      dials: {
        keys: [
          { at: 0, value: 0 },
          { at: 1.5, value: 0 },
          { at: 3, value: 1 },
          { at: 6, value: 0.8 },
          { at: 9, value: 0 },
          { at: 12, value: 0 },
          { at: 13, value: 1 },
          { at: 15, value: 0.6 },
          { at: 17, value: 0 },
        ],
      },
    },
  ],
  stock: [{ id: 'crystal', name: 'Salt crystal', type: 'mesh', source: { made: 'crystal' } }],
  influence: {},
  finish: showFinish(0.3, 0.6, 0.6),
});
