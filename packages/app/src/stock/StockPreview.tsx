import { Box } from '@mui/material';
import { useEffect, useRef } from 'react';
import {
  boundsOf,
  numberAt,
  pointsOf,
  wordsOf,
  type FontStock,
  type Clip,
  type LookupTable,
  type InSpace,
  type Sound,
  type StockData,
} from '@vast-swarm/core/stock';
import { waveOf } from '../data/stock';
import { paintPicture } from '../ui/paintPicture';
import { whileUnderPointer } from '../ui/underPointer';
import { drawMotion } from './drawMotion';
import { WAVE } from '../reading/wave';
import { COLOURS } from '../ui/theme';

const W = WAVE;
const H = 130;
/** Points or faces that are drawn at the most. */
const MOST = 20_000;

/** A small drawing of a thing of the stock: from a little above, faces lit from the left. */
export function StockPreview({ data, name }: { data: StockData; name: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current!.getContext('2d')!;
    context.clearRect(0, 0, W, H);
    if (data.type === 'picture') void paintPicture(context, data, 0, 0, W, H);
    else if (data.type === 'clip') return drawClip(context, data);
    else if (data.type === 'motion') return drawMotion(context, data);
    else if (data.type === 'table') drawTable(context, data);
    else if (data.type === 'sound') drawSound(context, data);
    else if (data.type === 'font') return drawFont(context, data);
    else drawShape(context, data);
  }, [data]);
  return (
    <Box
      component="canvas"
      ref={canvas}
      width={W}
      height={H}
      role="img"
      aria-label={`Preview of ${name}`}
      sx={{ width: W, height: H, bgcolor: '#060b0c', display: 'block', borderRadius: 0.5 }}
    />
  );
}

/** Its first picture, and those behind it as long as the pointer rests on it. */
function drawClip(context: CanvasRenderingContext2D, clip: Clip): () => void {
  const { canvas } = context;
  const last = clip.times.length - 2;
  let shown = -1;
  let asked = false;
  let over = false;
  const show = async (index: number): Promise<void> => {
    if (asked || index === shown) return;
    asked = true;
    const picture = await clip.picture(index);
    asked = false;
    if (over) return;
    shown = index;
    context.clearRect(0, 0, W, H);
    await paintPicture(context, picture, 0, 0, W, H);
  };
  const rest = whileUnderPointer(canvas, (seconds) => {
    void show(numberAt(clip, seconds % clip.times[last + 1]!));
  });
  void show(0);
  return () => {
    over = true;
    rest();
  };
}

/** Red across and green down, at three strengths of blue. */
function drawTable(context: CanvasRenderingContext2D, { size, values }: LookupTable): void {
  const [cell, shown] = [W / 3 / size, [0, Math.floor((size - 1) / 2), size - 1]];
  shown.forEach((blue, i) => {
    for (let k = 0; k < size * size; k++) {
      const at = 3 * (k + blue * size * size);
      const [r, g, b] = [0, 1, 2].map((c) => Math.round(255 * values[at + c]!));
      context.fillStyle = `rgb(${String(r)} ${String(g)} ${String(b)})`;
      const x = (i * W) / 3 + (k % size) * cell;
      context.fillRect(x, (Math.floor(k / size) * H) / size, cell + 1, H / size + 1);
    }
  });
}

/** Some of its letters, as soon as they are laid out. */
function drawFont(context: CanvasRenderingContext2D, { family, bytes }: FontStock): () => void {
  let over = false;
  const source = { words: SAMPLE, font: { file: family, hash: '' } };
  // One that has no such letters shows nothing; words that are made with it tell what it lacks.
  const drawn = wordsOf(family, 'outline', source, bytes).then((words) => {
    if (!over) drawShape(context, words);
  });
  drawn.catch(() => undefined);
  return () => {
    over = true;
  };
}

const SAMPLE = 'Aa Gg\n123';

/** Its waveform from beginning to end. */
function drawSound(context: CanvasRenderingContext2D, sound: Sound): void {
  const { low, high } = waveOf(sound);
  context.fillStyle = COLOURS.glass;
  for (let x = 0; x < W; x++) {
    const [top, bottom] = [high[x]!, low[x]!].map((v) => H / 2 - v * H * 0.45) as [number, number];
    context.fillRect(x, top, 1, Math.max(1, bottom - top));
  }
}

function drawShape(context: CanvasRenderingContext2D, data: InSpace): void {
  const [low, high] = boundsOf(pointsOf(data));
  const size = Math.max(1e-6, ...high.map((h, i) => h - low[i]!));
  const middle = low.map((l, i) => (l + high[i]!) / 2);
  const flat = data.type === 'outline' && high[2]! - low[2]! < size * 0.01;
  const [cos, sin] = flat ? [1, 0] : [Math.cos(0.5), Math.sin(0.5)];
  const lift = flat ? 0 : 0.35;
  const project = (p: ArrayLike<number>, at: number): [number, number, number] => {
    const [x, y, z] = [0, 1, 2].map((k) => (p[at + k]! - middle[k]!) / size) as [
      number,
      number,
      number,
    ];
    const [across, depth] = [x * cos + z * sin, z * cos - x * sin];
    return [W / 2 + across * H * 0.85, H / 2 - (y - depth * lift) * H * 0.85, depth];
  };
  if (data.type === 'outline') {
    context.strokeStyle = COLOURS.glass;
    for (const { points } of data.curves) {
      context.beginPath();
      for (let i = 0; i < points.length; i += 3) context.lineTo(...two(project(points, i)));
      context.stroke();
    }
    return;
  }
  if (data.type === 'cloud') {
    const step = 3 * Math.max(1, Math.ceil(data.positions.length / 3 / MOST));
    for (let i = 0; i < data.positions.length; i += step) {
      const [x, y] = project(data.positions, i);
      context.fillStyle = colourAt(data.colours, i, 1);
      context.fillRect(x, y, 1, 1);
    }
    return;
  }
  const { positions, triangles, colours } = data;
  const step = Math.max(1, Math.ceil(triangles.length / 3 / MOST));
  const faces: { corners: [number, number, number][]; at: number }[] = [];
  for (let t = 0; t < triangles.length / 3; t += step) {
    const corners = [0, 1, 2].map((k) => project(positions, 3 * triangles[3 * t + k]!));
    faces.push({ corners, at: 3 * triangles[3 * t]! });
  }
  faces.sort((a, b) => a.corners[0]![2] - b.corners[0]![2]);
  for (const { corners, at } of faces) {
    const [a, b, c] = corners as [[number, number, number], ...[number, number, number][]] as [
      [number, number, number],
      [number, number, number],
      [number, number, number],
    ];
    const turned = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
    const size2 = Math.abs(turned) + 1e-6;
    const slope = Math.min(1, Math.abs(b[2] - a[2]) * 8 + Math.abs(c[2] - a[2]) * 8);
    context.fillStyle = colourAt(colours, at, 0.95 - 0.6 * slope * Math.min(1, 4 / size2 + 0.4));
    context.beginPath();
    for (const corner of corners) context.lineTo(...two(corner));
    context.fill();
  }
}

function two([x, y]: [number, number, number]): [number, number] {
  return [x, y];
}

function colourAt(colours: Float32Array | undefined, at: number, light: number): string {
  const base = colours ? [0, 1, 2].map((k) => Math.sqrt(colours[at + k]!) * 255) : [127, 214, 200];
  return `rgb(${base.map((c) => Math.round(c * light)).join()})`;
}
