import { Box, Button, Drawer, Typography } from '@mui/material';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { SHOW_KEYS } from '../show/showKeys';
import { useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { storeStep } from '../walk/steps';
import { COLOURS } from '../ui/theme';
import { IconAction } from '../ui/IconAction';
import { TYPING } from '../ui/typing';
import { DialsHelp, KeysHelp } from './Keys';

/** Keys and dials, opened and closed with ? beside the work, which goes on. */
export function HelpBeside() {
  const [open, setOpen] = useState(false);
  const dispatch = useAppDispatch();
  const inShow = useLocation().pathname.startsWith('/show/');
  useEffect(() => {
    const keys = (event: KeyboardEvent): void => {
      if ((event.target as HTMLElement).matches(TYPING)) return;
      if (event.key === '?') setOpen((was) => !was);
      if (event.key === 'Escape') setOpen(false);
    };
    window.addEventListener('keydown', keys);
    return () => {
      window.removeEventListener('keydown', keys);
    };
  }, []);
  return (
    <Drawer
      anchor="right"
      variant="persistent"
      open={open}
      slotProps={{
        paper: {
          role: 'complementary',
          'aria-label': 'Help',
          sx: {
            ...{ width: 430, p: 2.5, bgcolor: COLOURS.sheet, fontSize: 13, lineHeight: 1.5 },
            // What a desk has at its foot is never covered.
            ...(inShow ? { height: 'auto', bottom: 84 } : {}),
          },
        },
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', mb: 1 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Keys
        </Typography>
        <IconAction
          label="Close the help"
          shortcut="?"
          onClick={() => {
            setOpen(false);
          }}
        >
          <X size={16} />
        </IconAction>
      </Box>
      <KeysHelp {...(inShow ? { groups: SHOW_KEYS } : {})} />
      <Typography variant="h2" sx={{ mt: 2 }}>
        Dials
      </Typography>
      <DialsHelp />
      <Button
        color="inherit"
        sx={{ alignSelf: 'start', ml: -1 }}
        onClick={() => {
          storeStep(0);
          dispatch(toolActions.walkSet(0));
          setOpen(false);
        }}
      >
        Walk through the first steps again
      </Button>
      <Button
        component={Link}
        to="/guide"
        color="inherit"
        sx={{ alignSelf: 'start', ml: -1 }}
        onClick={() => {
          setOpen(false);
        }}
      >
        The whole guide ▸
      </Button>
    </Drawer>
  );
}
