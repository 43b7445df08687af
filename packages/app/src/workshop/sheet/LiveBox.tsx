import { Box, Button, MenuItem, Select, Stack } from '@mui/material';
import { useEffect, useRef } from 'react';
import type { Part } from '@vast-swarm/core';
import { useEngine } from '../../engine/EngineContext';
import type { Microphone } from '../../sound/microphone';
import { useMicrophone } from '../../sound/MicrophoneContext';
import { toolActions } from '../../store/toolSlice';
import { useAppDispatch } from '../../store/store';
import { COLOURS, MONO } from '../../theme';
import { Group } from './Group';

/** Decibels at which the meter begins. */
const FLOOR = -60;

/** A live input of the piece: which device, how loud it is, and recording. */
export function LiveBox({ sound, taken }: { sound: Part; taken: boolean }) {
  const engine = useEngine();
  const dispatch = useAppDispatch();
  const [microphone, { state, recording, problem }] = useMicrophone();
  const records = recording === sound.id;
  const record = async (): Promise<void> => {
    const opened = await microphone.record(sound.id);
    if (!opened) return;
    engine.listen(sound.id, opened.rate, opened.port);
    dispatch(toolActions.playSet(true));
  };
  return (
    <Group title="Input">
      <Stack direction="row" sx={{ alignItems: 'center', gap: 1, pr: 1, minHeight: 32 }}>
        <Devices />
        <Meter microphone={microphone} />
      </Stack>
      <Stack direction="row" sx={{ alignItems: 'center', gap: 1, pr: 1, fontSize: 12.5 }}>
        <Box sx={{ color: COLOURS.faint, flex: 1 }}>{toldOf(state === 'open', records, taken)}</Box>
        {state === 'open' && !records && (
          <Button
            onClick={() => {
              microphone.close();
            }}
          >
            Close it
          </Button>
        )}
        {state !== 'open' && (
          <Button disabled={state === 'opening'} onClick={() => void microphone.open()}>
            Open it
          </Button>
        )}
        {records ? (
          <Button
            variant="contained"
            onClick={() => {
              microphone.rest();
            }}
          >
            Stop
          </Button>
        ) : (
          <Button
            variant="outlined"
            disabled={state === 'opening' || recording !== null}
            onClick={() => void record()}
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
function Devices() {
  const [microphone, { devices, device }] = useMicrophone();
  const known = devices.some((d) => d.id === device) ? device : '';
  return (
    <Select
      variant="standard"
      disableUnderline
      displayEmpty
      value={known}
      onChange={(event) => void microphone.choose(event.target.value)}
      inputProps={{ 'aria-label': 'Device' }}
      sx={{ fontSize: 13, width: 190, '& .MuiSelect-select': { py: '1px' } }}
    >
      <MenuItem value="">The usual input</MenuItem>
      {devices.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </Select>
  );
}

/** How loud it is, in decibels below the loudest. */
function Meter({ microphone }: { microphone: Microphone }) {
  const meter = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLDivElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  // Thirty times a second: written straight on the elements.
  useEffect(() => {
    const put = (): void => {
      const { level, state } = microphone;
      const decibels = Math.max(FLOOR, 20 * Math.log10(Math.max(1e-9, level)));
      const loud = decibels > -3;
      const { style } = bar.current!;
      style.width = `${String((1 - decibels / FLOOR) * 100)}%`;
      style.background = loud ? COLOURS.coral : COLOURS.glass;
      const told = decibels <= FLOOR ? 'silent' : `${decibels.toFixed(0)} dB`;
      number.current!.textContent = state.state === 'open' ? told : '';
      meter.current!.setAttribute('aria-valuenow', decibels.toFixed(0));
    };
    put();
    return microphone.measured(put);
  }, [microphone]);
  return (
    <>
      <Box
        ref={meter}
        role="meter"
        aria-label="Level of the input"
        aria-valuemin={FLOOR}
        aria-valuemax={0}
        aria-valuenow={FLOOR}
        sx={{ flex: 1, height: 8, bgcolor: COLOURS.line, borderRadius: 1, overflow: 'hidden' }}
      >
        <div ref={bar} style={{ height: '100%', width: 0 }} />
      </Box>
      <Box
        component="span"
        ref={number}
        sx={{ fontFamily: MONO, fontSize: 11.5, width: '6ch', textAlign: 'right' }}
      />
    </>
  );
}
