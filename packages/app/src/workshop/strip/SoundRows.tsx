import { Box } from '@mui/material';
import { useEffect, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Part, Peaks } from '@vast-swarm/core';
import { useEngine } from '../../engine/EngineContext';
import { pieceActions } from '../../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../theme';
import { useHolding } from '../../ui/useHolding';
import { RowName } from './RowName';

const HEIGHT = 40;
/** Stretches of the piece that a waveform is drawn in. */
const COLUMNS = 700;

/** A row for each sound: its waveform where it is heard, dragged to where it begins. */
export function SoundRows({ last }: { last: number }) {
  const sounds = usePiece().sounds;
  return sounds.map((sound, at) => <Row key={sound.id} sound={sound} at={at} last={last} />);
}

/** What is heard of a sound over the piece, found where the engine works. */
function usePeaks(id: string): Peaks | null {
  const engine = useEngine();
  const { sounds, stock, frame } = usePiece();
  const [peaks, setPeaks] = useState<Peaks | null>(null);
  useEffect(() => {
    let wanted = true;
    const take = (found: Peaks | null): void => {
      if (wanted) setPeaks(found);
    };
    engine.peaks(id, COLUMNS).then(take, () => undefined);
    return () => {
      wanted = false;
    };
  }, [engine, id, sounds, stock, frame]);
  return peaks;
}

function shapeOf({ low, high }: Peaks): string {
  const y = (v: number): string => (HEIGHT / 2 - v * (HEIGHT / 2 - 3)).toFixed(1);
  const tops = Array.from(high, (v, i) => `${String(i)} ${y(v)}`);
  const bottoms = Array.from(low, (v, i) => `${String(i)} ${y(v)}`).reverse();
  return `M${[...tops, ...bottoms].join('L')}Z`;
}

function Row({ sound, at, last }: { sound: Part; at: number; last: number }) {
  const dispatch = useAppDispatch();
  const chosen = useApp(
    (s) => s.piece.selection?.list === 'sounds' && s.piece.selection.id === sound.id,
  );
  const peaks = usePeaks(sound.id);
  const start = sound.dials.start as number;
  const [grip, setGrip] = useState(0);
  const begin = (frame: number): void => {
    const path = ['sounds', at, 'dials', 'start'];
    const value = Math.round(frame);
    dispatch(pieceActions.set({ path, value, label: 'Begins at', merge: `start.${sound.id}` }));
  };
  const settle = (): void => void dispatch(pieceActions.settled());
  const frameAt = ({ currentTarget, clientX }: PointerEvent): number => {
    const box = currentTarget.getBoundingClientRect();
    return (last * (clientX - box.left)) / box.width;
  };
  const { surface, hold, handlers } = useHolding<HTMLDivElement>((_, event) => {
    event.stopPropagation();
    begin(frameAt(event) - grip);
  }, settle);
  const keys = (event: KeyboardEvent): void => {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (way === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    begin(start + way * (event.shiftKey ? 10 : 1));
  };
  return (
    <Box
      ref={surface}
      {...handlers}
      sx={{ position: 'relative', height: HEIGHT, borderTop: `1px solid ${COLOURS.line}` }}
    >
      <RowName list="sounds" part={sound} chosen={chosen} />
      <svg
        viewBox={`0 0 ${String(COLUMNS)} ${String(HEIGHT)}`}
        preserveAspectRatio="none"
        role="slider"
        tabIndex={0}
        aria-label={`${sound.name} begins at`}
        aria-valuenow={start}
        aria-valuetext={`frame ${String(start)}`}
        onKeyDown={keys}
        onPointerDown={(event) => {
          event.stopPropagation();
          dispatch(pieceActions.selected({ list: 'sounds', id: sound.id }));
          setGrip(frameAt(event) - start);
          hold(0, event.pointerId);
        }}
        style={{ width: '100%', height: HEIGHT, display: 'block', cursor: 'ew-resize' }}
      >
        {peaks && (
          <path
            d={shapeOf(peaks)}
            fill={chosen ? COLOURS.amber : COLOURS.glass}
            opacity={sound.on ? 0.7 : 0.2}
          />
        )}
      </svg>
    </Box>
  );
}
