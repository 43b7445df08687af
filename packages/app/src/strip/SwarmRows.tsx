import { Box } from '@mui/material';
import { memo } from 'react';
import { birthsIn } from '@vast-swarm/core/kinds';
import type { Swarm } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { arrows } from '../ui/arrows';
import { useHolding } from '../ui/useHolding';
import { Lane } from './Lane';
import { useStrip } from './StripContext';

/** The part of a swarm that the strip shows, in seconds. */
type Span = Pick<Swarm, 'id' | 'name' | 'on'> &
  Record<'start' | 'end' | 'burst' | 'burstAt' | 'burstEvery', number> & {
    /** Whether it is born from start to end, or in bursts only. */
    steady: boolean;
    /** The dial that says when the first burst comes. */
    burstDial: 'start' | 'burstAt';
  };

function spanOf({ id, name, on, dials }: Swarm): Span {
  const dial = (key: string): number => dials[key] as number;
  const { rate, burst } = birthsIn(dials);
  const span = { id, name, on, start: dial('start'), end: dial('end'), steady: rate !== 0 };
  if (dials.when === 'once') {
    return { ...span, burst: 1, burstAt: span.start, burstEvery: 0, burstDial: 'start' };
  }
  const [burstAt, burstEvery] = [dial('burstAt'), dial('burstEvery')];
  return { ...span, burst, burstAt, burstEvery, burstDial: 'burstAt' };
}

/** Most bursts that are marked. */
const MOST_BURSTS = 200;

/** Seconds of a swarm's bursts, up to the end of the piece. */
function burstsOf({ burst, burstAt, burstEvery }: Span, end: number): number[] {
  if (burst === 0) return [];
  if (burstEvery === 0) return [burstAt];
  const count = Math.min(MOST_BURSTS, Math.floor((end - burstAt) / burstEvery) + 1);
  return Array.from({ length: Math.max(0, count) }, (_, i) => burstAt + i * burstEvery);
}

/** A bar for the births of each swarm. */
export function SwarmRows() {
  const swarms = useApp((s) => s.piece.piece!.swarms);
  if (swarms.length === 0) {
    return (
      <Box sx={{ color: COLOURS.faint, fontSize: 12.5, pt: 1 }}>
        Each swarm will have a bar here that shows when its particles are born.
      </Box>
    );
  }
  // Rows get only what they show: most dragged dials change nothing of it.
  return swarms.map((swarm, at) => <SwarmRow key={swarm.id} at={at} {...spanOf(swarm)} />);
}

/** The name before a swarm's row. */
function Name({ name, chosen }: { name: string; chosen: boolean }) {
  return (
    <Box
      sx={{
        position: 'absolute',
        left: -92,
        width: 86,
        top: 3,
        fontSize: 12,
        color: chosen ? COLOURS.amber : COLOURS.faint,
        overflow: 'hidden',
        textOverflow: 'ellipsis',
        whiteSpace: 'nowrap',
      }}
    >
      {name}
    </Box>
  );
}

/** When a swarm's particles are born: a bar, and a mark for each burst, of which the first is dragged. */
const SwarmRow = memo(function SwarmRow({ at, ...swarm }: Span & { at: number }) {
  const dispatch = useAppDispatch();
  const chosen = useApp(
    ({ piece: { selection } }) => selection?.list === 'swarms' && selection.id === swarm.id,
  );
  const { rate, last, percent, frameAt, snap } = useStrip();
  const move = (frame: number): void => {
    const path = ['swarms', at, 'dials', swarm.burstDial];
    const value = Math.round((1000 * Math.max(0, frame)) / rate) / 1000;
    dispatch(pieceActions.set({ path, value, label: 'Burst', merge: `burst.${swarm.id}` }));
  };
  const settle = (): void => void dispatch(pieceActions.settled());
  const { surface, hold, handlers } = useHolding<HTMLDivElement>((_, event) => {
    event.stopPropagation();
    move(snap(frameAt(event), event));
  }, settle);
  const keys = arrows('across', (way, far) => {
    move(swarm.burstAt * rate + way * (far ? 10 : 1));
    settle();
  });
  const [begin, end] = [swarm.start, swarm.end].map((s) => percent(Math.min(last, s * rate)));
  return (
    <Lane height={22} line={false} name={<Name name={swarm.name} chosen={chosen} />}>
      <div ref={surface} {...handlers} style={{ position: 'absolute', inset: 0 }}>
        {swarm.steady && (
          <Box
            sx={{
              position: 'absolute',
              top: 6,
              height: 10,
              borderRadius: 0.5,
              left: begin,
              width: `calc(${end!} - ${begin!})`,
              bgcolor: chosen ? COLOURS.amber : COLOURS.glass,
              opacity: swarm.on ? 0.55 : 0.15,
            }}
          />
        )}
        {burstsOf(swarm, last / rate).map((seconds, i) => (
          <Box
            key={i}
            {...(i === 0 && {
              role: 'slider',
              tabIndex: 0,
              'aria-label': `${swarm.name}, burst`,
              'aria-valuenow': seconds,
              'aria-valuetext': `${String(seconds)} s`,
              onKeyDown: keys,
              onPointerDown: (event: React.PointerEvent) => {
                event.stopPropagation();
                hold(0, event.pointerId);
              },
            })}
            sx={{
              position: 'absolute',
              top: 4,
              left: `calc(${percent(seconds * rate)} - 4px)`,
              width: 9,
              height: 14,
              bgcolor: COLOURS.amber,
              clipPath: 'polygon(50% 0, 100% 50%, 50% 100%, 0 50%)',
              ...(i === 0 && { cursor: 'ew-resize' }),
            }}
          />
        ))}
      </div>
    </Lane>
  );
});
