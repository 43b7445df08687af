import { made, type Clip } from '@vast-swarm/core/stock';
import { standInOf } from '../live/devices';
import { paintPicture } from '../ui/paintPicture';

/** A source of pictures: an element that is shown, and how it is let go. */
export interface Source {
  element: HTMLVideoElement | HTMLCanvasElement;
  width: number;
  height: number;
  /** Calls with every new picture, until it is closed. */
  onPicture: (call: () => void) => void;
  close: () => void;
}

/** Pixels along the width that are asked for, and the most that are taken. */
const WIDE = 640;

/** Clips that stand in for a camera, by their names in the stock. */
export const STAND_INS = ['dancer', 'wanderingLight'] as const;
/**
 * Opens a camera, or what stands in for one.
 *
 * @param device its id; '' for the usual one
 * @param ended is called when it is pulled out
 */
export function openSource(device: string, ended: () => void): Promise<Source> {
  const name = standInOf(device);
  return name === null ? openCamera(device, ended) : openStandIn(made(name) as Clip);
}

async function openCamera(device: string, ended: () => void): Promise<Source> {
  const stream = await navigator.mediaDevices.getUserMedia({
    video: {
      ...(device ? { deviceId: { exact: device } } : {}),
      width: { ideal: WIDE },
      height: { ideal: 360 },
      frameRate: { ideal: 30 },
    },
  });
  stream.getVideoTracks()[0]!.onended = ended;
  const element = document.createElement('video');
  Object.assign(element, { srcObject: stream, muted: true, playsInline: true });
  await element.play();
  let closed = false;
  return {
    element,
    ...fitting(element.videoWidth, element.videoHeight),
    onPicture(call) {
      const next = (): void => {
        if (closed) return;
        call();
        element.requestVideoFrameCallback(next);
      };
      element.requestVideoFrameCallback(next);
    },
    close() {
      closed = true;
      for (const track of stream.getTracks()) track.stop();
    },
  };
}

/** A size of even sides, not too wide. */
function fitting(width: number, height: number): { width: number; height: number } {
  const scale = Math.min(1, WIDE / Math.max(width, height, 1));
  const even = (n: number): number => Math.max(2, 2 * Math.round((n * scale) / 2));
  return { width: even(width), height: even(height) };
}

/** A clip that plays on and on, on a canvas. */
async function openStandIn(clip: Clip): Promise<Source> {
  const element = document.createElement('canvas');
  const { width, height } = fitting(clip.width, clip.height);
  Object.assign(element, { width, height });
  const context = element.getContext('2d')!;
  const whole = clip.times.at(-1)!;
  const count = clip.times.length - 1;
  const begun = performance.now();
  let call: () => void = () => undefined;
  const paint = async (): Promise<void> => {
    const second = ((performance.now() - begun) / 1000) % whole;
    const picture = await clip.picture(Math.min(count - 1, Math.floor((second / whole) * count)));
    await paintPicture(context, picture, 0, 0, width, height);
    call();
  };
  await paint();
  const timer = setInterval(() => void paint(), 1000 / 30);
  return {
    element,
    width,
    height,
    onPicture(next) {
      call = next;
    },
    close() {
      clearInterval(timer);
    },
  };
}
