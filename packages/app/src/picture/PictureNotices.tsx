import { Box, Button } from '@mui/material';
import { makeBake } from '../data/bakes';
import { useEngine, useReport } from '../engine/EngineContext';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';

/** Notices of the picture, on lines of their own below it: limits, and why it is empty. */
export function PictureNotices() {
  const piece = usePiece();
  const dispatch = useAppDispatch();
  const notices = useApp((s) => s.tools.notices);
  const empty = useReport((r) => r !== null && r.settling === 0 && r.frame > 0 && r.alive === 0);
  const nothing = empty && piece.swarms.some((s) => s.on);
  const late = useReport((r) => Math.round(r?.late ?? 0));
  if (notices.length === 0 && !nothing && late === 0) return null;
  const raise = (part: string, enough: number): void => {
    const at = piece.swarms.findIndex((s) => s.id === part);
    const path = ['swarms', at, 'dials', 'limit'];
    dispatch(pieceActions.set({ path, value: enough, label: 'Raise the limit' }));
  };
  return (
    <Box
      role="status"
      aria-label="About the picture"
      sx={{
        px: 2,
        py: 0.5,
        maxHeight: 88,
        overflowY: 'auto',
        fontSize: 12.5,
        bgcolor: COLOURS.ground,
        borderTop: `1px solid ${COLOURS.line}`,
      }}
    >
      {notices.map(({ part, message, enough }) => (
        <Box key={`${part} ${message}`} sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
          <Box sx={{ flex: 1 }}>{message}</Box>
          {enough !== undefined && (
            <Button
              size="small"
              onClick={() => {
                raise(part, enough);
              }}
            >
              Raise the limit to {enough.toLocaleString('en-GB')}
            </Button>
          )}
        </Box>
      ))}
      {late > 0 && <Late milliseconds={late} />}
      {nothing && (
        <Box sx={{ color: COLOURS.faint }}>
          Nothing is alive at this frame; the doctor, below, tells why.
        </Box>
      )}
    </Box>
  );
}

/** Simulating takes longer than the sound gives it: what is stored has not to be simulated. */
function Late({ milliseconds }: { milliseconds: number }) {
  const engine = useEngine();
  const { frame, swarms } = usePiece();
  const baked = useApp((s) => s.bakes.bakes);
  const making = useApp((s) => s.bakes.making);
  const most = useReport((r) => {
    const left = Object.entries(r?.aliveBy ?? {}).filter(([id]) => !baked[id]);
    return left.sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
  });
  const swarm = swarms.find(({ id }) => id === most);
  const given = (1000 / frame.rate).toFixed(0);
  return (
    <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
      <Box sx={{ flex: 1 }}>
        Simulating a frame takes {milliseconds} ms here, and the sound gives it {given} ms: the
        picture cannot keep up with it.
      </Box>
      {swarm && (
        <Button
          size="small"
          disabled={making !== null}
          onClick={() => {
            makeBake(engine, swarm.id);
          }}
        >
          Bake {swarm.name}
        </Button>
      )}
    </Box>
  );
}
