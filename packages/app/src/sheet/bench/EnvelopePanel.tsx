import { Box } from '@mui/material';
import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Part } from '@vast-swarm/core/piece';
import { pieceActions } from '../../store/pieceSlice';
import { useAppDispatch } from '../../store/store';
import { COLOURS, MONO } from '../../ui/theme';
import { useHolding } from '../../ui/useHolding';
import { showAmount } from '../../fields/amount';
import { cornersOf, H, movedTo, shapeOf, W, widthFor, type Corner, type Stages } from './envelope';

type Keys = readonly [string, string, string, string, string];

interface Props {
  signal: Part;
  at: number;
  stages: Keys;
}

const STAGES = ['attack', 'hold', 'decay', 'sustain', 'release'] as const;
const NAMES = ['Attack', 'Hold', 'Decay and sustain', 'Release'] as const;

/** The stages of an envelope in dials of a signal, and what changes them. */
function useStages({ signal, at, stages: keys }: Props) {
  const dispatch = useAppDispatch();
  const stages = Object.fromEntries(
    STAGES.map((stage, i) => [stage, signal.dials[keys[i]!] as number]),
  ) as unknown as Stages;
  const put = (changed: Partial<Stages>): void => {
    STAGES.forEach((stage, i) => {
      const value = changed[stage];
      if (value === undefined) return;
      const path = ['signals', at, 'dials', keys[i]!];
      const merge = `envelope.${signal.id}`;
      dispatch(pieceActions.set({ path, value, label: 'Envelope', merge }));
    });
  };
  return { stages, put, settle: () => void dispatch(pieceActions.settled()) };
}

/** The five stages of an envelope as a shape whose corners are dragged. */
export function EnvelopePanel(props: Props) {
  const { stages, put, settle } = useStages(props);
  // While a corner is held the axis stays as it is.
  const [held, setHeld] = useState<number | null>(null);
  const seconds = held ?? widthFor(stages);
  const { surface, hold, handlers } = useHolding<HTMLDivElement>(
    (corner, event) => {
      put(movedTo(corner, placeOf(event), stages, seconds));
    },
    () => {
      setHeld(null);
      settle();
    },
  );
  return (
    <Box
      ref={surface}
      {...handlers}
      role="group"
      aria-label="Envelope"
      sx={{ position: 'relative', bgcolor: COLOURS.ground, borderRadius: 0.5, touchAction: 'none' }}
    >
      <svg
        viewBox={`0 0 ${String(W)} ${String(H)}`}
        preserveAspectRatio="none"
        aria-hidden
        style={{ width: '100%', height: H, display: 'block' }}
      >
        <path
          d={shapeOf(stages, seconds)}
          fill={COLOURS.glass}
          fillOpacity={0.14}
          stroke={COLOURS.glass}
          strokeWidth={1.5}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      {cornersOf(stages, seconds).map((place, corner) => (
        <Handle
          key={corner}
          {...{ stages, corner, place }}
          onHold={(pointer) => {
            setHeld(seconds);
            hold(corner, pointer);
          }}
          onMove={(to) => {
            put(movedTo(corner, to, stages, seconds));
            settle();
          }}
        />
      ))}
      <Box
        sx={{
          position: 'absolute',
          right: 4,
          top: 2,
          pointerEvents: 'none',
          fontFamily: MONO,
          fontSize: 10.5,
          color: COLOURS.faint,
        }}
      >
        {showAmount(stages.attack + stages.hold + stages.decay + stages.release)} s
      </Box>
    </Box>
  );
}

function placeOf({ currentTarget, clientX, clientY }: PointerEvent): Corner {
  const box = currentTarget.getBoundingClientRect();
  return [((clientX - box.left) / box.width) * W, ((clientY - box.top) / box.height) * H];
}

interface HandleProps {
  stages: Stages;
  corner: number;
  place: Corner;
  onHold: (pointer: number) => void;
  onMove: (to: Corner) => void;
}

/** A corner of the shape: dragged, or moved by keys. */
function Handle({ stages, corner, place: [x, y], onHold, onMove }: HandleProps) {
  const { attack, hold, decay, sustain, release } = stages;
  const value = [attack, hold, decay, release][corner]!;
  const told = `${showAmount(value)} s${corner === 2 ? `, down to ${showAmount(sustain)}` : ''}`;
  const keys = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 20 : 2;
    const ways: Record<string, Corner | undefined> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ...(corner === 2 ? { ArrowUp: [0, -step], ArrowDown: [0, step] } : {}),
    };
    const way = ways[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    onMove([x + way[0], y + way[1]]);
  };
  return (
    <Box
      role="slider"
      tabIndex={0}
      aria-label={NAMES[corner]}
      aria-valuenow={value}
      aria-valuetext={told}
      onKeyDown={keys}
      onPointerDown={({ pointerId }) => {
        onHold(pointerId);
      }}
      sx={{
        position: 'absolute',
        width: 11,
        height: 11,
        borderRadius: '50%',
        cursor: 'grab',
        left: `calc(${String((100 * x) / W)}% - 5.5px)`,
        top: y - 5.5,
        bgcolor: COLOURS.amber,
        zIndex: corner === 0 ? 1 : 0,
      }}
    />
  );
}
