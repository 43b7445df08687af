import { Box, Button } from '@mui/material';
import { useReport } from '../../engine/EngineContext';
import { pieceActions } from '../../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../theme';

/** What is to be known of the picture, on lines of their own below it: limits, and why it is empty. */
export function Tidings() {
  const piece = usePiece();
  const dispatch = useAppDispatch();
  const notices = useApp((s) => s.tools.notices);
  const empty = useReport((r) => r !== null && r.settling === 0 && r.frame > 0 && r.alive === 0);
  const nothing = empty && piece.swarms.some((s) => s.on);
  if (notices.length === 0 && !nothing) return null;
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
        ...{ px: 2, py: 0.5, maxHeight: 88, overflowY: 'auto', fontSize: 12.5 },
        ...{ bgcolor: COLOURS.ground, borderTop: `1px solid ${COLOURS.line}` },
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
      {nothing && (
        <Box sx={{ color: COLOURS.faint }}>
          Nothing is alive at this frame; the doctor, below, tells why.
        </Box>
      )}
    </Box>
  );
}
