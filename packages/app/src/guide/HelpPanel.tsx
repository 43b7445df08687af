import { Box, Button, Drawer, Typography } from '@mui/material';
import { X } from 'lucide-react';
import { Link, useLocation } from 'react-router';
import { SHOW_KEYS } from '../show/showKeys';
import { useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { storeStep } from '../walk/steps';
import { COLOURS } from '../ui/theme';
import { IconAction } from '../ui/IconAction';
import { DialsHelp, KeysHelp } from './Keys';

/** Keys and dials, in a drawer beside the work. */
export default function HelpPanel({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch();
  const inShow = useLocation().pathname.startsWith('/show/');
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
            width: 430,
            p: 2.5,
            bgcolor: COLOURS.sheet,
            fontSize: 13,
            lineHeight: 1.5,
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
        <IconAction label="Close the help" shortcut="?" onClick={onClose}>
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
          onClose();
        }}
      >
        Walk through the first steps again
      </Button>
      <Button
        component={Link}
        to="/guide"
        color="inherit"
        sx={{ alignSelf: 'start', ml: -1 }}
        onClick={onClose}
      >
        The whole guide ▸
      </Button>
    </Drawer>
  );
}
