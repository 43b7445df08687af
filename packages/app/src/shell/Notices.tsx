import { Alert, Button, Stack } from '@mui/material';
import { useLocation } from 'react-router';
import { keepCopy, keepOpenPiece } from '../data/autosave';
import { exportPiece } from '../data/files';
import { restoreRemoved } from '../data/pieces';
import { restoreShow } from '../data/shows';
import { cancelReading } from '../reading/inStockWorker';
import { dismissed, type Notice } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store, useApp, useAppDispatch } from '../store/store';

const ACTIONS: Readonly<Record<NonNullable<Notice['action']>, string>> = {
  undo: 'Undo',
  restore: 'Undo',
  restoreShow: 'Undo',
  export: 'Export piece',
  keepPiece: 'Keep it',
  keepCopy: 'Keep mine as a copy',
  cancelReading: 'Cancel',
};

/** Notices to the artist at the foot of the view; nothing waits for an answer. */
export function Notices() {
  const notices = useApp((s) => s.notices);
  const dispatch = useAppDispatch();
  // What a desk has at its foot is never covered.
  const bottom = useLocation().pathname.startsWith('/show/') ? 96 : 16;
  const act = (notice: Notice): void => {
    const { piece } = store.getState().piece;
    if (notice.action === 'export' && piece) void exportPiece(piece);
    if (notice.action === 'restore') void restoreRemoved();
    if (notice.action === 'restoreShow') void restoreShow();
    if (notice.action === 'undo') dispatch(pieceActions.undone());
    if (notice.action === 'cancelReading') cancelReading(notice.key);
    dispatch(dismissed(notice.key));
    if (notice.action === 'keepPiece') void keepOpenPiece();
    if (notice.action === 'keepCopy') void keepCopy();
  };
  return (
    <Stack
      spacing={1}
      sx={{ position: 'fixed', left: 16, bottom, maxWidth: 620, zIndex: 1400 }}
      role="status"
      aria-label="Notices"
    >
      {notices.map((notice) => (
        <Alert
          key={notice.key}
          variant="outlined"
          severity={notice.kind === 'wrong' ? 'error' : 'info'}
          sx={{ bgcolor: 'background.paper', whiteSpace: 'pre-line', boxShadow: 4 }}
          onClose={() => dispatch(dismissed(notice.key))}
          action={
            notice.action && (
              <Stack direction="row">
                <Button
                  color="inherit"
                  onClick={() => {
                    act(notice);
                  }}
                >
                  {ACTIONS[notice.action]}
                </Button>
                <Button color="inherit" onClick={() => dispatch(dismissed(notice.key))}>
                  Close
                </Button>
              </Stack>
            )
          }
        >
          {notice.message}
        </Alert>
      ))}
    </Stack>
  );
}
