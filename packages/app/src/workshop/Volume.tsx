import { Box, Menu, MenuItem, Slider } from '@mui/material';
import { ChevronDown, Volume2, VolumeX } from 'lucide-react';
import { useEffect, useState } from 'react';
import { devicesOf, type Device } from '../live/devices';
import { keepHeard, toolActions } from '../store/toolSlice';
import { store, useApp, useAppDispatch } from '../store/store';
import { IconAction } from '../ui/IconAction';

/** How loud the piece is heard, whether at all, and where. */
export function Volume() {
  const dispatch = useAppDispatch();
  const { level, silent } = useApp((s) => s.tools.heard);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
      <IconAction
        label={silent ? 'Let it be heard' : 'Silence'}
        pressed={silent}
        onClick={() => dispatch(toolActions.heardSet({ silent: !silent }))}
      >
        {silent ? <VolumeX size={16} /> : <Volume2 size={16} />}
      </IconAction>
      <Slider
        size="small"
        aria-label="Loudness"
        min={0}
        max={1}
        step={0.01}
        value={silent ? 0 : level}
        onChange={(_, next) => dispatch(toolActions.heardSet({ level: next, silent: false }))}
        onChangeCommitted={() => {
          keepHeard(store.getState().tools.heard);
        }}
        // Its reach does not go over the button beside it.
        sx={{ width: 56, ml: 1, '& .MuiSlider-thumb::after': { width: 20, height: 20 } }}
      />
      <Outputs />
    </Box>
  );
}

/** Outputs of the machine, to be chosen from. */
function Outputs() {
  const dispatch = useAppDispatch();
  const { device } = useApp((s) => s.tools.heard);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [devices, setDevices] = useState<readonly Device[]>([]);
  useEffect(() => {
    if (anchor) void devicesOf('audiooutput').then(setDevices);
  }, [anchor]);
  const choose = (id: string): void => {
    dispatch(toolActions.heardSet({ device: id }));
    keepHeard(store.getState().tools.heard);
    setAnchor(null);
  };
  return (
    <>
      <IconAction
        label="Where it is heard"
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        <ChevronDown size={13} />
      </IconAction>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {[{ id: '', name: 'The usual output' }, ...devices].map(({ id, name }) => (
          <MenuItem key={id} selected={id === device} onClick={() => choose(id)}>
            {name}
          </MenuItem>
        ))}
        {devices.length === 0 && (
          <MenuItem disabled>Others are named once an input was opened</MenuItem>
        )}
      </Menu>
    </>
  );
}
