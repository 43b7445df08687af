import { Box } from '@mui/material';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { Panel, Wall } from '@vast-swarm/core/show';
import { COLOURS } from '../ui/theme';

interface Props {
  wall: Wall;
  chosen: string;
  onChoose: (panel: string) => void;
  onMove: (panel: Panel, name: string) => void;
}

/** Metres that an arrow key goes; with Shift ten times as far. */
const STEP = 0.01;
const ARROWS: Record<string, [x: number, y: number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const hundredths = (v: number): number => Math.round(100 * v) / 100;

/** The panels of a wall over what the output covers: pressed to be chosen, dragged, or moved by keys. */
export function WallMap({ wall, chosen, onChoose, onMove }: Props) {
  const surface = useRef<SVGSVGElement>(null);
  const drag = useRef<{ panel: Panel; x: number; y: number } | null>(null);
  const room = 0.04 * Math.max(wall.width, wall.height);
  const placed = ({ clientX, clientY }: PointerEvent): [x: number, y: number] => {
    const matrix = surface.current!.getScreenCTM()!.inverse();
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix);
    return [x, y];
  };
  const keys = (event: KeyboardEvent, panel: Panel): void => {
    const [x, y] = ARROWS[event.key] ?? [0, 0];
    if (x === 0 && y === 0) return;
    event.preventDefault();
    const by = STEP * (event.shiftKey ? 10 : 1);
    onMove({ ...panel, x: hundredths(panel.x + x * by), y: hundredths(panel.y + y * by) }, 'moved');
  };
  return (
    <Box
      component="svg"
      ref={surface}
      viewBox={`${String(-room)} ${String(-room)} ${String(wall.width + 2 * room)} ${String(wall.height + 2 * room)}`}
      sx={{ width: '100%', maxHeight: 420, bgcolor: '#05080a', borderRadius: 1, display: 'block' }}
      onPointerMove={(event: PointerEvent) => {
        const { current } = drag;
        if (!current) return;
        const [x, y] = placed(event);
        const { panel } = current;
        const to = {
          x: hundredths(panel.x + x - current.x),
          y: hundredths(panel.y + y - current.y),
        };
        onMove({ ...panel, ...to }, 'dragged');
      }}
      onPointerUp={() => {
        drag.current = null;
      }}
    >
      <rect
        width={wall.width}
        height={wall.height}
        fill="none"
        stroke={COLOURS.line}
        strokeDasharray="0.1 0.06"
        strokeWidth={0.02}
      />
      {wall.panels.map((panel) => (
        <PanelShape
          key={panel.id}
          {...{ panel }}
          chosen={panel.id === chosen}
          onKeyDown={(event) => {
            keys(event, panel);
          }}
          onFocus={() => {
            onChoose(panel.id);
          }}
          onPointerDown={(event) => {
            onChoose(panel.id);
            event.currentTarget.closest('svg')!.setPointerCapture(event.pointerId);
            const [x, y] = placed(event);
            drag.current = { panel, x, y };
          }}
        />
      ))}
    </Box>
  );
}

interface ShapeProps {
  panel: Panel;
  chosen: boolean;
  onKeyDown: (event: KeyboardEvent) => void;
  onFocus: () => void;
  onPointerDown: (event: PointerEvent<SVGGElement>) => void;
}

/** One panel: its pixels as lines between them, and where the first of them is. */
function PanelShape({ panel, chosen, ...handlers }: ShapeProps) {
  const { x, y, columns, rows, pitch, turn, order, name } = panel;
  const each = pitch / 1000;
  const [width, height] = [columns * each, rows * each];
  const right = order.from === 'topRight' || order.from === 'bottomRight';
  const bottom = order.from === 'bottomLeft' || order.from === 'bottomRight';
  const grid = `panel-${panel.id}`;
  return (
    <g
      {...handlers}
      role="button"
      tabIndex={0}
      aria-label={`${name}, ${String(x)} m across, ${String(y)} m down`}
      aria-pressed={chosen}
      transform={`translate(${String(x)} ${String(y)}) rotate(${String(turn)}) translate(${String(-width / 2)} ${String(-height / 2)})`}
      style={{ cursor: 'grab' }}
    >
      <pattern id={grid} width={each} height={each} patternUnits="userSpaceOnUse">
        <circle cx={each / 2} cy={each / 2} r={each * 0.28} fill={COLOURS.line} />
      </pattern>
      <rect
        {...{ width, height }}
        fill={COLOURS.sheet}
        stroke={chosen ? COLOURS.amber : COLOURS.faint}
        strokeWidth={0.02}
      />
      <rect {...{ width, height }} fill={`url(#${grid})`} />
      <circle
        cx={right ? width - each / 2 : each / 2}
        cy={bottom ? height - each / 2 : each / 2}
        r={Math.max(0.045, each / 2)}
        fill={COLOURS.amber}
      />
      <text
        x={width / 2}
        y={height / 2}
        fill={COLOURS.text}
        fontSize={Math.min(0.22, height / 2, (1.6 * width) / name.length)}
        textAnchor="middle"
        dominantBaseline="middle"
      >
        {name}
      </text>
    </g>
  );
}
