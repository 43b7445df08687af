import { Box } from '@mui/material';
import { cueDials, valuesOf } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { arrows } from '../ui/arrows';
import { useHolding } from '../ui/useHolding';
import { Lane } from './Lane';
import { useStrip } from './StripContext';

const HEIGHT = 24;

/** Cues that time fires, dragged to where they are wanted; behind them what was played, as thin lines. */
export function CueRow() {
  const dispatch = useAppDispatch();
  const cues = useApp((s) => s.piece.piece!.cues);
  const played = useApp((s) => s.piece.piece!.played);
  const chosen = useApp((s) => (s.piece.selection?.list === 'cues' ? s.piece.selection.id : ''));
  const { view, rate, percent, frameAt, snap } = useStrip();
  const put = (i: number, at: number): void => {
    const value = Math.min(36_000, Math.max(0, Math.round(at * 1e3) / 1e3));
    const path = ['cues', i, 'dials', 'at'];
    dispatch(pieceActions.set({ path, value, label: 'Move a cue', merge: path.join('.') }));
  };
  const { surface, hold, handlers } = useHolding<HTMLDivElement>(
    (i, event) => {
      event.stopPropagation();
      put(i, snap(frameAt(event), event) / rate);
    },
    () => void dispatch(pieceActions.settled()),
  );
  const timed = cues.some((c) => c.dials.by === 'yes');
  if (!timed && played.length === 0) return null;
  const name = (
    <Box sx={{ position: 'absolute', left: -92, top: 4, fontSize: 12, color: COLOURS.faint }}>
      Cues
    </Box>
  );
  // No more lines than there is room to tell apart.
  const [length, fine] = [view.to - view.from, 300];
  const parts = played.map((p) => Math.round(((p.at * rate - view.from) / length) * fine));
  const lines = [...new Set(parts)].filter((part) => part >= 0 && part <= fine);
  return (
    <Lane height={HEIGHT} name={name}>
      <div
        ref={surface}
        role="group"
        aria-label="Cues over time"
        {...handlers}
        style={{ position: 'absolute', inset: 0 }}
      >
        {lines.map((part) => (
          <Box
            key={part}
            aria-hidden
            sx={{
              position: 'absolute',
              top: 15,
              bottom: 3,
              width: '1px',
              left: `${String((100 * part) / fine)}%`,
              bgcolor: COLOURS.glass,
            }}
          />
        ))}
        {cues.map((cue, i) =>
          valuesOf(cueDials, cue.dials).by === 'yes' ? (
            <CueMark
              key={cue.id}
              {...{ cue }}
              chosen={cue.id === chosen}
              left={percent((cue.dials.at as number) * rate)}
              onHold={(pointer) => {
                dispatch(pieceActions.selected({ list: 'cues', id: cue.id }));
                hold(i, pointer);
              }}
              onMove={(at) => {
                put(i, at);
              }}
            />
          ) : null,
        )}
      </div>
    </Lane>
  );
}

interface MarkProps {
  cue: Part;
  chosen: boolean;
  left: string;
  onHold: (pointer: number) => void;
  onMove: (at: number) => void;
}

function CueMark({ cue, chosen, left, onHold, onMove }: MarkProps) {
  const at = cue.dials.at as number;
  const colour = chosen ? COLOURS.amber : cue.on ? COLOURS.glass : COLOURS.faint;
  return (
    <Box
      role="slider"
      tabIndex={0}
      aria-label={`${cue.name}, when it is fired`}
      aria-valuenow={at}
      aria-valuetext={`${String(at)} s`}
      onPointerDown={(event) => {
        event.stopPropagation();
        onHold(event.pointerId);
      }}
      onKeyDown={arrows('across', (way, far) => {
        onMove(at + way * (far ? 1 : 0.1));
      })}
      sx={{
        position: 'absolute',
        top: 2,
        height: 20,
        left,
        cursor: 'grab',
        pl: '5px',
        borderLeft: `2px solid ${colour}`,
        color: colour,
        fontSize: 11.5,
        whiteSpace: 'nowrap',
        lineHeight: '13px',
      }}
    >
      {cue.name}
    </Box>
  );
}
