import { Box } from '@mui/material';
import { useEffect, useRef } from 'react';
import type { Camera } from '../camera/camera';
import { STAND_INS } from '../camera/sources';
import { useEngine } from '../engine/EngineContext';
import { standIns } from '../live/devices';
import { useCamera } from '../inputs/LiveContext';
import { COLOURS } from '../ui/theme';
import { InputBox } from './InputBox';

const MORE = standIns(STAND_INS);

/** A camera of the piece. */
export function CameraInput({ part, taken }: { part: string; taken: boolean }) {
  const engine = useEngine();
  const [camera, known] = useCamera();
  const record = async (): Promise<boolean> => {
    const opened = await camera.record(part);
    if (opened) engine.record('pictures', part, opened);
    return opened !== null;
  };
  return (
    <InputBox
      {...{ device: camera, known, part, taken, record }}
      usual="The usual camera"
      more={MORE}
    >
      {known.state === 'open' && <Seen camera={camera} />}
    </InputBox>
  );
}

/** The camera's picture. */
function Seen({ camera }: { camera: Camera }) {
  const place = useRef<HTMLDivElement>(null);
  const { element } = camera;
  useEffect(() => {
    if (!element) return;
    Object.assign(element.style, { width: '100%', display: 'block' });
    place.current!.replaceChildren(element);
  }, [element]);
  return (
    <Box
      ref={place}
      role="img"
      aria-label="What the camera sees"
      sx={{ width: 240, my: 0.75, bgcolor: COLOURS.ground, borderRadius: 0.5, overflow: 'hidden' }}
    />
  );
}
