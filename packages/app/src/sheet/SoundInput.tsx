import { Box } from '@mui/material';
import { useEffect, useRef } from 'react';
import { useEngine } from '../engine/EngineContext';
import { useMicrophone } from '../inputs/LiveContext';
import type { Microphone } from '../sound/microphone';
import { COLOURS, MONO } from '../ui/theme';
import { InputBox } from './InputBox';

/** Decibels at which the meter begins. */
const FLOOR = -60;

/** A live sound of the piece. */
export function SoundInput({ part, taken }: { part: string; taken: boolean }) {
  const engine = useEngine();
  const [microphone, known] = useMicrophone();
  const record = async (): Promise<boolean> => {
    const opened = await microphone.record(part);
    if (opened) engine.record('sounds', part, opened);
    return opened !== null;
  };
  const beside = <Meter microphone={microphone} />;
  return (
    <InputBox
      {...{ device: microphone, known, part, taken, record, beside }}
      usual="The usual input"
    />
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
