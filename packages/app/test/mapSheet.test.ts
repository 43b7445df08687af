import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, makePiece, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import { MAP_CHANNELS, MAP_PLANE, type MapPlane, type Vector } from '@vast-swarm/core/feeds';
import type { Picture } from '@vast-swarm/core/stock';
import { CpuEngine } from '@vast-swarm/cpu';
import { mapPlanes } from '../src/picture/overlay/mapPlanes';
import { BINS, channelOf, histogramOf } from '../src/sheet/histogram';

/** Maps as the sheet and the picture show them. */

const HASH = 'f'.repeat(16);

/** One colour all over. */
function flat(pixel: readonly number[]): Picture {
  const pixels = Uint8Array.from({ length: 4 * 6 }, (_, i) => pixel[i % 4]!);
  return { type: 'picture', width: 3, height: 2, pixels };
}

function mapped(plane: MapPlane = MAP_PLANE): Piece {
  const piece = makePiece('Maps');
  const swarm = makeSwarm('rectangle', []);
  Object.assign(swarm.dials, { rate: 0, burst: 4, lasts: 'ever' });
  swarm.dials.size = { feed: 'map', picture: 'dots', by: 'plane', plane, from: 0, to: 1 };
  piece.swarms.push(swarm);
  const source = { file: 'a.png', hash: HASH };
  piece.stock.push({ id: 'dots', name: 'Dots', type: 'picture', source });
  return piece;
}

test('the histogram counts what a map finds, channel by channel', async () => {
  const engine = await CpuEngine.create({ threads: 1 });
  const colours = [
    [255, 128, 20, 255],
    [10, 200, 90, 255],
    [30, 60, 240, 180],
    [120, 120, 120, 255],
  ];
  for (const pixel of colours) {
    for (const channel of MAP_CHANNELS) {
      const piece = mapped();
      Object.assign(piece.swarms[0]!.dials.size, { channel });
      engine.setPlan(compilePiece(piece, { files: new Map([[HASH, flat(pixel)]]) }));
      engine.reset();
      engine.step();
      const found = engine.readings(piece.swarms[0]!.id).size[0]!;
      const light = pixel.slice(0, 3).map((c) => {
        const v = c / 255;
        return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
      }) as [number, number, number];
      expect(channelOf(channel, [...light, pixel[3]! / 255])).toBeCloseTo(found, 3);
      const bars = histogramOf(flat(pixel), channel);
      expect(bars.reduce((sum, v) => sum + v, 0)).toBe(1);
      const full = bars.indexOf(1);
      expect(Math.abs((full + 0.5) / BINS - found)).toBeLessThan(1.1 / BINS);
    }
  }
  engine.close();
});

test('the plane of a map has handles in the picture, that keep the rest of it', () => {
  const plane: MapPlane = { centre: [1, 2, 3], turn: [30, -50], width: 4, height: 2 };
  const piece = mapped(plane);
  // Another dial on the same plane is no second set of handles.
  piece.swarms[0]!.dials.opacity = { ...(piece.swarms[0]!.dials.size as object) } as never;
  const selection = { list: 'swarms', id: piece.swarms[0]!.id } as const;
  const { handles, lines } = mapPlanes(piece, selection);
  expect(handles.map((h) => h.title)).toEqual(['Size map', 'Size map, turn', 'Size map, size']);
  for (const { path } of handles) expect(path).toEqual(['swarms', 0, 'dials', 'size', 'plane']);
  const [middle, turn, corner] = handles as [
    (typeof handles)[0],
    (typeof handles)[0],
    (typeof handles)[0],
  ];
  expect(middle.write!([5, 6, 7])).toEqual({ ...plane, centre: [5, 6, 7] });
  expect(turn.write!([10, 20, 0])).toEqual({ ...plane, turn: [10, 20] });
  // The corner where it is means the size that it has; twice as far out, twice that.
  const out = corner.value.map((v, i) => v - plane.centre[i]!) as Vector;
  expect(Math.hypot(...out)).toBeCloseTo(Math.hypot(2, 1), 6);
  expect(corner.write!(out)).toEqual(plane);
  expect(corner.write!(out.map((v) => 2 * v) as Vector)).toEqual({ ...plane, width: 8, height: 4 });
  expect(lines[0]).toHaveLength(5);
  // Away from the plane none are shown.
  piece.swarms[0]!.dials.size = 1;
  piece.swarms[0]!.dials.opacity = 1;
  expect(mapPlanes(piece, selection).handles).toEqual([]);
  expect(mapPlanes(piece, { list: 'camera', id: '' }).handles).toEqual([]);
});

test('maps of forces and bodies are found too', () => {
  const piece = mapped();
  piece.forces.push(makePart('forces', 'drag', []));
  piece.forces[0]!.dials.amount = { ...(piece.swarms[0]!.dials.size as object) } as never;
  piece.swarms[0]!.emitter = makeChoice('emitters', 'point');
  const { handles } = mapPlanes(piece, { list: 'forces', id: piece.forces[0]!.id });
  expect(handles[0]!.path.slice(0, 2)).toEqual(['forces', 0]);
});
