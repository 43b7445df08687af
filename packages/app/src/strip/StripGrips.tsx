import { Box } from '@mui/material';
import type { Part, PartList } from '@vast-swarm/core/piece';
import type { Strip } from '@vast-swarm/core/kinds';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { arrows } from '../ui/arrows';
import { useHolding } from '../ui/useHolding';
import { useStrip } from './StripContext';
import { GRIPS, gripped, placesOf, type Extent, type Grip } from './trims';

interface Props {
  list: PartList;
  part: Part;
  /** Its number in the list. */
  at: number;
  strip: Strip;
  extent: Extent;
  height: number;
}

const LABELS: Record<Grip, string> = {
  from: 'trimmed at its beginning',
  to: 'trimmed at its end',
  fadeIn: 'fade in',
  fadeOut: 'fade out',
};

/** Handles of a sound or a clip on the strip: its ends trim it, the points above them fade it. */
export function StripGrips({ list, part, at, strip, extent, height }: Props) {
  const dispatch = useAppDispatch();
  const { rate, percent, frameAt, snap } = useStrip();
  const places = placesOf(extent);
  const move = (grip: Grip, second: number): void => {
    const changed = gripped(grip, second, extent, rate);
    const dials: Record<string, string | undefined> = {
      start: strip.start,
      from: strip.trim?.[0],
      to: strip.trim?.[1],
      fadeIn: strip.fades?.[0],
      fadeOut: strip.fades?.[1],
    };
    for (const [key, value] of Object.entries(changed)) {
      const dial = dials[key];
      if (dial === undefined) continue;
      const path = [list, at, 'dials', dial];
      const merge = `${grip}.${part.id}`;
      dispatch(pieceActions.set({ path, value, label: 'Trim', merge }));
    }
  };
  const settle = (): void => void dispatch(pieceActions.settled());
  const { surface, hold, handlers } = useHolding<HTMLDivElement>((grip, event) => {
    event.stopPropagation();
    move(GRIPS[grip]!, snap(frameAt(event), event) / rate);
  }, settle);
  const keys = (grip: Grip) =>
    arrows('across', (way, far) => {
      move(grip, places[grip] + (way * (far ? 10 : 1)) / rate);
      settle();
    });
  const offered = GRIPS.filter((grip) =>
    grip === 'from' || grip === 'to' ? strip.trim : strip.fades && !extent.repeats,
  );
  const frame = (second: number): string => percent(second * rate);
  return (
    <div
      ref={surface}
      {...handlers}
      style={{ position: 'absolute', inset: 0, pointerEvents: 'none', touchAction: 'none' }}
    >
      {offered.map((grip) => {
        const edge = grip === 'from' || grip === 'to';
        return (
          <Box
            key={grip}
            role="slider"
            tabIndex={0}
            aria-label={`${part.name}, ${LABELS[grip]}`}
            aria-valuenow={extent[grip]}
            aria-valuetext={`${extent[grip].toFixed(2)} s`}
            onKeyDown={keys(grip)}
            onPointerDown={(event: React.PointerEvent) => {
              event.stopPropagation();
              hold(GRIPS.indexOf(grip), event.pointerId);
            }}
            sx={{
              position: 'absolute',
              pointerEvents: 'auto',
              cursor: 'ew-resize',
              ...(edge
                ? {
                    top: 0,
                    height,
                    width: 7,
                    opacity: 0.55,
                    '&:hover': { opacity: 1 },
                    left: `calc(${frame(places[grip])} - ${grip === 'to' ? '7px' : '0px'})`,
                    [grip === 'to' ? 'borderRight' : 'borderLeft']: `2px solid ${COLOURS.text}`,
                  }
                : {
                    top: 2,
                    width: 9,
                    height: 9,
                    borderRadius: '50%',
                    left: `calc(${frame(places[grip])} - 4.5px)`,
                    border: `1.5px solid ${COLOURS.text}`,
                    bgcolor: extent[grip] > 0 ? COLOURS.text : COLOURS.ground,
                  }),
            }}
          />
        );
      })}
    </div>
  );
}
