import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';

/** The way from shell to buoy that everything takes. */
const MORPH = {
  ...{ shape1: 'conch', shape2: 'buoy', size1: 1.15 },
  amount: { feed: 'signal', signal: 'tide', from: 0, to: 1 },
  ...{ stagger: 0.55, detour: 0.75, swirl: 0.9 },
};

/** Morph: what the tide brought in turns into what the harbour put out, and back. */
export const conchToBuoy = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Conch to Buoy',
  seed: 5,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 0 },
  backdrop: {
    kind: 'radial',
    dials: { inner: '#0a2430', outer: '#01060a', centreY: 0.5, radius: 0.85 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      target: [0, 0.02, 0],
      distance: 6.4,
      azimuth: 20,
      elevation: 12,
      orbit: 9,
      view: 36,
      near: 0.5,
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      ...{ id: 'facets', name: 'Facets', on: true },
      emitter: { kind: 'morph', dials: { ...MORPH, places: 2400 } },
      launch: { kind: 'allRound', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'mesh', name: 'Links', on: true, kind: 'links' },
          dials: { mode: 'add', radius: 0.19, most: 4, width: 0.12, fill: 0.6, gain: 2.5 },
        },
        {
          ...{ id: 'spark', name: 'Spark', on: true, kind: 'spark' },
          dials: { mode: 'add', gain: 8 },
        },
      ],
      dials: {
        ...{ when: 'once', lasts: 'ever' },
        size: { feed: 'spread', from: 0.03, to: 0.11 },
        // A light climbs from below, and sets the corners it passes glinting.
        opacity: {
          feed: 'formula',
          text: '0.16 + 0.84 * smooth(0.75, 1, sin(1.6 * y - 1.5 * time + 0.8 * random))',
          from: 0,
          to: 1,
        },
        colour: { feed: 'place' },
      },
      copies: [],
    },
    {
      id: 'shape',
      name: 'Shape',
      on: true,
      emitter: {
        kind: 'morph',
        dials: { ...MORPH, places: 30000 },
      },
      launch: { kind: 'allRound', dials: { speed: 0 } },
      bodies: [
        {
          id: 'disc',
          name: 'Disc',
          on: true,
          kind: 'disc',
          dials: { mode: 'add', hardness: 0.12 },
        },
      ],
      dials: {
        when: 'once',
        lasts: 'ever',
        size: { feed: 'spread', from: 0.012, to: 0.03, distribution: 'normal' },
        opacity: {
          feed: 'formula',
          text: '0.5 + 0.5 * noise(index * 0.37 + time * 1.5)',
          from: 0.1,
          to: 1,
        },
        colour: { feed: 'place' },
        light: {
          feed: 'formula',
          text: '0.25 + 1.6 * random ^ 4 + 0.4 * (y > 1.05)',
          from: 0,
          to: 4,
        },
      },
      copies: [],
    },
    {
      id: 'drift',
      name: 'Sea sparks',
      on: true,
      emitter: { kind: 'swarm', dials: { swarm: 'shape', jitter: 0.02 } },
      launch: { kind: 'allRound', dials: { speed: { feed: 'spread', from: 0.02, to: 0.12 } } },
      bodies: [{ id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add' } }],
      dials: {
        when: 'steadily',
        rate: { feed: 'signal', signal: 'surge', from: 400, to: 4200 },
        lifetime: { feed: 'spread', from: 1.2, to: 3.2 },
        size: { feed: 'spread', from: 0.008, to: 0.02 },
        opacity: {
          feed: 'fixed',
          value: 0.9,
          over: [
            { x: 0, y: 0 },
            { x: 0.12, y: 1 },
            { x: 1, y: 0 },
          ],
        },
        colour: {
          feed: 'gradient',
          by: 'signal',
          signal: 'tide',
          stops: [
            { at: 0, colour: '#ff9d7c', light: 1.2 },
            { at: 0.5, colour: '#7ff0dc', light: 1.4 },
            { at: 1, colour: '#ffc45e', light: 1.3 },
          ],
        },
        light: 1,
      },
      copies: [],
    },
  ],
  forces: [
    {
      id: 'current',
      name: 'Current',
      on: true,
      kind: 'curlNoise',
      dials: { strength: 0.55, scale: 0.9, octaves: 2, change: 0.3 },
    },
    {
      id: 'rise',
      name: 'Rise',
      on: true,
      kind: 'wind',
      dials: { speed: 0.3, direction: [0, 1, 0], grip: 0.6 },
    },
  ],
  colliders: [],
  sounds: [],
  signals: [
    {
      id: 'tide',
      name: 'Tide',
      on: true,
      kind: 'keyframes',
      dials: {
        keys: [
          { at: 0, value: 0 },
          { at: 3, value: 0 },
          { at: 8.5, value: 1 },
          { at: 12, value: 1 },
          { at: 17.5, value: 0 },
          { at: 20, value: 0 },
        ],
      },
    },
    {
      id: 'surge',
      name: 'Surge',
      on: true,
      kind: 'keyframes',
      dials: {
        keys: [
          { at: 0, value: 0.1 },
          { at: 3, value: 0.1 },
          { at: 5.5, value: 1 },
          { at: 9, value: 0.1 },
          { at: 12, value: 0.1 },
          { at: 14.5, value: 1 },
          { at: 18, value: 0.1 },
        ],
      },
    },
  ],
  stock: [
    { id: 'conch', name: 'Conch', type: 'mesh', source: { made: 'conch' } },
    { id: 'buoy', name: 'Buoy', type: 'mesh', source: { made: 'buoy' } },
  ],
  influence: { current: { shape: 0, facets: 0 }, rise: { shape: 0, facets: 0 } },
  finish: showFinish(0.5, 0.4),
});
