import { Box } from '@mui/material';
import { useEffect, useRef, useSyncExternalStore } from 'react';
import { useEngine } from '../engine/EngineContext';
import type { Heard } from '../joints/jointsWorker';
import { STAND_INS } from '../joints/sources';
import { standIns } from '../live/devices';
import { useJoints } from '../inputs/LiveContext';
import { COLOURS, MONO } from '../ui/theme';
import { figuresView, drawFigure } from '../stock/figure';
import { InputBox } from './InputBox';

const MORE = standIns(STAND_INS);

/** Live performers of the piece. */
export function JointsInput({ part, taken }: { part: string; taken: boolean }) {
  const engine = useEngine();
  const [joints, known] = useJoints();
  const heard = useSyncExternalStore(joints.told, () => joints.heard);
  const record = async (): Promise<boolean> => {
    const opened = await joints.record(part);
    if (opened) engine.record('performers', part, opened);
    return opened !== null;
  };
  return (
    <InputBox
      {...{ device: joints, known, part, taken, record }}
      usual="What is sent here"
      more={MORE}
    >
      {known.state === 'open' && heard && <Present heard={heard} />}
    </InputBox>
  );
}

/** Who is there, and how they move. */
function Present({ heard }: { heard: Heard }) {
  const { cast, rates, refused, why, lost, address } = heard;
  return (
    <Box sx={{ fontSize: 12.5, pr: 1, pb: 0.5 }}>
      {cast.length > 0 && <Figures heard={heard} />}
      <Box component="ul" aria-label="Who is there" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {cast.map(({ name, joints }, i) => (
          <li
            key={name}
          >{`${name}: ${String(joints.length)} joints, ${String(rates[i])} poses a second`}</li>
        ))}
      </Box>
      {cast.length === 0 && <Box>Nobody is there yet.</Box>}
      {address && (
        <Box sx={{ color: COLOURS.faint }}>
          Open Sound Control to{' '}
          <Box component="span" sx={{ fontFamily: MONO }}>
            {address}
          </Box>
          : /performer/&lt;who&gt;/joint/&lt;name&gt; with x, y, z in metres.
        </Box>
      )}
      {lost && <Box sx={{ color: COLOURS.coral }}>The server is gone; it is looked for.</Box>}
      {refused > 0 && (
        <Box sx={{ color: COLOURS.coral }}>
          {refused} messages a second are not taken: {why}.
        </Box>
      )}
    </Box>
  );
}

const [WIDE, HIGH] = [300, 130];

/** Performers as figures of lines, from the front. */
function Figures({ heard }: { heard: Heard }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  // What was reached so far stays in view.
  const view = useRef(figuresView(WIDE, HIGH));
  useEffect(() => {
    const context = canvas.current!.getContext('2d')!;
    context.clearRect(0, 0, WIDE, HIGH);
    for (const places of heard.places) view.current.reach(places);
    heard.cast.forEach(({ joints }, i) => {
      drawFigure(context, joints, heard.places[i]!, view.current.at);
    });
  }, [heard]);
  return (
    <canvas
      ref={canvas}
      width={WIDE}
      height={HIGH}
      role="img"
      aria-label="How they move"
      style={{ display: 'block', background: '#060b0c', borderRadius: 4 }}
    />
  );
}
