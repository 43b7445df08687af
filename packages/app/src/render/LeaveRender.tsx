import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useEffect } from 'react';
import { Link, useBlocker } from 'react-router';
import { COLOURS } from '../theme';

/** The way back; while a render runs, every way out of the view asks first. */
export function LeaveRender({ to, running }: { to: string; running: boolean }) {
  const blocker = useBlocker(running);
  useEffect(() => {
    if (!running) return undefined;
    // The browser asks in its own words.
    const ask = (event: BeforeUnloadEvent): void => {
      event.preventDefault();
    };
    window.addEventListener('beforeunload', ask);
    return () => {
      window.removeEventListener('beforeunload', ask);
    };
  }, [running]);
  const stay = (): void => {
    blocker.reset?.();
  };
  useEffect(() => {
    // It may end while the question stands.
    if (!running && blocker.state === 'blocked') blocker.reset();
  }, [running, blocker]);
  return (
    <>
      <Button component={Link} to={to} color="inherit" sx={{ color: COLOURS.faint, ml: -1 }}>
        ◂ Back to the workshop
      </Button>
      <Dialog open={blocker.state === 'blocked'} onClose={stay} aria-labelledby="leave-render">
        <DialogTitle id="leave-render">A render is running</DialogTitle>
        <DialogContent>
          Leaving this view stops it. Frames that are in a folder already stay there; a video or a
          zip is not finished.
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={() => blocker.proceed?.()}>
            Stop it and leave
          </Button>
          <Button variant="contained" onClick={stay} autoFocus>
            Stay
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
