import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useEffect, useState, type MouseEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { COLOURS } from '../theme';

/** The way back; while a render runs, it asks first. */
export function LeaveRender({ to, running }: { to: string; running: boolean }) {
  const [asked, setAsked] = useState(false);
  const navigate = useNavigate();
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
    setAsked(false);
  };
  return (
    <>
      <Button
        component={Link}
        to={to}
        color="inherit"
        sx={{ color: COLOURS.faint, ml: -1 }}
        onClick={(event: MouseEvent) => {
          if (!running) return;
          event.preventDefault();
          setAsked(true);
        }}
      >
        ◂ Back to the workshop
      </Button>
      <Dialog open={asked && running} onClose={stay} aria-labelledby="leave-render">
        <DialogTitle id="leave-render">A render is running</DialogTitle>
        <DialogContent>
          Leaving this view stops it. Frames that are in a folder already stay there; a video or a
          zip is not finished.
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={() => void navigate(to)}>
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
