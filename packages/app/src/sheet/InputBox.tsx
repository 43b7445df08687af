import { Box, Button, MenuItem, Select, Stack } from '@mui/material';
import type { ReactNode } from 'react';
import type { Device } from '../live/devices';
import type { DeviceState, LiveDevice } from '../live/liveDevice';
import { toolActions } from '../store/toolSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { Group } from './Group';

interface Props {
  device: LiveDevice<unknown>;
  known: DeviceState;
  /** Id of the part of the piece that it drives, and whether that has a take. */
  part: string;
  taken: boolean;
  /** The name of the browser's own choice, and devices of our own. */
  usual: string;
  more?: readonly Device[];
  /** Begins to record; whether it could. */
  record: () => Promise<boolean>;
  /** A meter of the input. */
  beside?: ReactNode;
  children?: ReactNode;
}

/** A live input of the piece: which device, what comes in, and recording. */
export function InputBox(props: Props) {
  const { device, known, part, taken, record, beside, children } = props;
  const dispatch = useAppDispatch();
  const { state, recording, problem } = known;
  const records = recording === part;
  const begin = async (): Promise<void> => {
    if (await record()) dispatch(toolActions.playSet(true));
  };
  return (
    <Group title="Input">
      <Stack direction="row" sx={{ alignItems: 'center', gap: 1, pr: 1, minHeight: 32 }}>
        <Devices {...props} />
        {beside}
      </Stack>
      {children}
      <Stack direction="row" sx={{ alignItems: 'center', gap: 1, pr: 1, fontSize: 12.5 }}>
        <Box sx={{ color: COLOURS.faint, flex: 1 }}>{toldOf(state === 'open', records, taken)}</Box>
        {state === 'open' && !records && (
          <Button
            onClick={() => {
              device.close();
            }}
          >
            Close it
          </Button>
        )}
        {state !== 'open' && (
          <Button disabled={state === 'opening'} onClick={() => void device.open()}>
            Open it
          </Button>
        )}
        {records ? (
          <Button
            variant="contained"
            onClick={() => {
              device.rest();
            }}
          >
            Stop
          </Button>
        ) : (
          <Button
            variant="outlined"
            disabled={state === 'opening' || recording !== null}
            onClick={() => void begin()}
          >
            {taken ? 'Record again' : 'Record'}
          </Button>
        )}
      </Stack>
      {problem && (
        <Box role="alert" sx={{ color: COLOURS.coral, fontSize: 12.5 }}>
          {problem}
        </Box>
      )}
    </Group>
  );
}

function toldOf(open: boolean, records: boolean, taken: boolean): string {
  if (records) return 'It drives the piece, and is recorded.';
  if (open) return 'Recorded from the present frame on, while the piece plays.';
  return taken ? 'The take drives the piece.' : 'Nothing was recorded yet.';
}

/** Which input: its name is known once there is permission. */
function Devices({ device, known, usual, more = [] }: Props) {
  const devices = [...known.devices, ...more];
  const chosen = devices.some((d) => d.id === known.device) ? known.device : '';
  return (
    <Select
      variant="standard"
      disableUnderline
      displayEmpty
      value={chosen}
      onChange={(event) => void device.choose(event.target.value)}
      inputProps={{ 'aria-label': 'Device' }}
      sx={{ fontSize: 13, width: 190, '& .MuiSelect-select': { py: '1px' } }}
    >
      <MenuItem value="">{usual}</MenuItem>
      {devices.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </Select>
  );
}
