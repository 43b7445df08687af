import {
  flatsOf,
  lampNumbers,
  outputsOf,
  putLevels,
  Words,
  type Draw,
  type Layout,
} from '@vast-swarm/core/plan';
import type { CameraPose, Lamps } from '@vast-swarm/core/kinds';
import type { Fine } from './frameMemory';
import type { SwarmMemory } from './swarmMemory';
import { WORDS } from './words';

/** Targets of the drawing. */
export interface Canvas {
  width: number;
  height: number;
  view: GPUTextureView;
  depth: GPUTextureView;
  /** Target of opaque things; null where there are none. */
  fine: Fine | null;
  camera: CameraPose;
  lamps: Lamps;
  time: number;
}

/** The words of a draw, with where its kernel's outputs stand. */
export function wordsOf<N extends string>(
  layout: Layout<N>,
  draw: Draw,
  memory: SwarmMemory,
): Words<N> {
  const outputs = outputsOf(draw).map((name) => [name, memory.address(name)]);
  return new Words(layout).whole(Object.fromEntries(outputs) as Record<N, number>);
}

export function markWords(
  draw: Draw & { shape: 'marks' },
  memory: SwarmMemory,
  { camera }: Canvas,
) {
  const { pattern, param, lens, pictures } = draw;
  const { blades, turn, ratio } = camera.lens;
  const words = wordsOf(WORDS.marks, draw, memory)
    .whole({ pattern, blades: lens ? blades : -1 })
    .real({
      param,
      aspect: Math.max(1, ratio),
      aspectU: Math.max(1, 1 / ratio),
      flats: flatsOf(blades, turn),
    });
  if (pictures) {
    const { block, width, height, frames } = pictures;
    words.whole({ picture: memory.address(block), pictureW: width, pictureH: height, frames });
  }
  return words;
}

export function meshWords(draw: Draw & { shape: 'meshes' }, memory: SwarmMemory, canvas: Canvas) {
  const { camera, lamps, height, time } = canvas;
  const words = wordsOf(WORDS.meshes, draw, memory)
    .whole({
      faces: memory.address(draw.faces),
      levelCount: draw.levels.length,
      mesh: memory.address(draw.mesh),
      triangles: draw.levels[0]!.count,
      cull: draw.cull ? 1 : 0,
      lightCount: lamps.lamps.length,
    })
    .real({
      zoom: camera.focal * height,
      gloss: draw.gloss(time),
      ambient: lamps.ambient,
      lamps: lamps.lamps.flatMap(lampNumbers),
    });
  putLevels(words.words, WORDS.meshes.at.levels, draw.levels);
  return words;
}

/** Where the search for links finds and leaves what it needs. */
export function placeLinks(
  words: Words<keyof typeof WORDS.links.at>,
  { radius, most, total, grid, roundIds }: Draw & { shape: 'links' },
  memory: SwarmMemory,
): typeof words {
  const at = (...names: string[]): number[] => names.map(memory.address);
  const [px, py, pz, age, life, order, start] = at(
    'px',
    'py',
    'pz',
    'age',
    'life',
    'near.order',
    'near.start',
  );
  const own = ['ranks', 'ends', 'pairs', 'kept', 'limit'].map((name) => `links.${name}`);
  const [ranks, ends, pairRanks, kept, limit] = at(...own);
  return words.real({ inverseSide: 1 / radius, radius }).whole({
    px,
    py,
    pz,
    age,
    life,
    order,
    start,
    mask: grid.cells - 1,
    most,
    totalLinks: total,
    ranks,
    ends,
    pairRanks,
    kept,
    limit,
    roundIds,
  });
}

export function linkWords(draw: Draw & { shape: 'links' }, memory: SwarmMemory, { time }: Canvas) {
  const words = wordsOf(WORDS.links, draw, memory).real({ fill: draw.fill(time) });
  return placeLinks(words, draw, memory);
}
