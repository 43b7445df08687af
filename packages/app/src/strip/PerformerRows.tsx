import { useEffect, useRef } from 'react';
import { isThere, type Performing } from '@vast-swarm/core/stock';
import { COLOURS } from '../ui/theme';
import { usePerforming } from '../answers/usePerforming';
import { useStrip } from './StripContext';
import { PlayedRows, type RowContent } from './PlayedRows';
import { RowCanvas } from './RowCanvas';

const HEIGHT = 34;
/** Small figures in a row. */
const FIGURES = 14;
/** Pixels of one. */
const [WIDE, HIGH] = [60, HEIGHT];

/** A row for each performer: small figures at their time, dragged and trimmed there. */
export function PerformerRows() {
  return <PlayedRows list="performers" height={HEIGHT} Content={SmallFigures} />;
}

/** Figures from the front, evenly over the part of the strip that is seen, all of one scale. */
function SmallFigures({ part, chosen, slider }: RowContent) {
  const { view, rate } = useStrip();
  const performing = usePerforming(part);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { from, to } = view;
  useEffect(() => {
    const context = canvas.current!.getContext('2d')!;
    context.clearRect(0, 0, FIGURES * WIDE, HIGH);
    if (performing) {
      const frames = Array.from({ length: FIGURES }, (_, i) => {
        return from + ((i + 0.5) / FIGURES) * (to - from);
      });
      const colour = chosen ? COLOURS.amber : COLOURS.glass;
      drawFigures(
        context,
        performing,
        frames.map((frame) => (frame + 1) / rate),
        colour,
      );
    }
  }, [performing, from, to, rate, chosen]);
  return <RowCanvas ref={canvas} {...{ width: FIGURES * WIDE, height: HEIGHT, part, slider }} />;
}

function drawFigures(
  context: CanvasRenderingContext2D,
  performing: Performing,
  seconds: readonly number[],
  colour: string,
): void {
  const { bones, at } = performing;
  const poses = seconds.map(at);
  const along = (axis: number): [least: number, most: number] => {
    const all = poses.flatMap((places) => [...places].filter((_, i) => i % 3 === axis));
    return [Math.min(...all), Math.max(...all)];
  };
  const [[left, right], [low, high]] = [along(0), along(1)];
  const room = Math.max((right - left) / WIDE, (high - low) / HIGH, 1e-6);
  const scale = 0.86 / room;
  context.strokeStyle = colour;
  context.lineCap = 'round';
  poses.forEach((places, i) => {
    if (!isThere(performing, seconds[i]!)) return;
    const point = (joint: number): [number, number] => [
      (i + 0.5) * WIDE + (places[3 * joint]! - (left + right) / 2) * scale,
      HIGH / 2 - (places[3 * joint + 1]! - (low + high) / 2) * scale,
    ];
    for (const { from, to } of bones) {
      context.beginPath();
      context.moveTo(...point(from));
      context.lineTo(...point(to));
      context.stroke();
    }
  });
}
