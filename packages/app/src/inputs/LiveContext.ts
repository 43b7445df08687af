import { createContext, useContext, useEffect, useSyncExternalStore } from 'react';
import { jointNames } from '@vast-swarm/core/stock';
import type { Camera } from '../camera/camera';
import type { EngineClient } from '../engine/client';
import type { Recorded } from '../engine/recording';
import type { Joints } from '../joints/joints';
import type { Microphone } from '../sound/microphone';
import type { DeviceState, LiveDevice } from '../live/liveDevice';

/** The live inputs of an open piece. */
export interface LiveInputs {
  microphone: Microphone;
  camera: Camera;
  joints: Joints;
}

export const LiveContext = createContext<LiveInputs | null>(null);

function useInput<K extends keyof LiveInputs>(which: K): [LiveInputs[K], DeviceState] {
  const inputs = useContext(LiveContext);
  if (!inputs) throw new Error('no live inputs here');
  const device = inputs[which];
  const known = (): DeviceState => device.state;
  return [device, useSyncExternalStore(device.subscribe, known, known)];
}

export const useMicrophone = (): [Microphone, DeviceState] => useInput('microphone');
export const useJoints = (): [Joints, DeviceState] => useInput('joints');
export const useCamera = (): [Camera, DeviceState] => useInput('camera');

/** Names of the joints of those who are heard now, as a performer of the piece has them. */
export function useHeardJoints(): string[] {
  const { joints } = useContext(LiveContext)!;
  // As a text, which stays the same while they move.
  const names = useSyncExternalStore(joints.told, () => {
    return jointNames(joints.heard?.cast ?? []).join('\n');
  });
  return names === '' ? [] : names.split('\n');
}

/** The part of an open piece that is being recorded; the input is let go when the piece is closed. */
export function useRecording(
  engine: EngineClient,
  device: LiveDevice<unknown>,
  what: Recorded,
): string | null {
  const { subscribe } = device;
  const recording = useSyncExternalStore(subscribe, () => device.state.recording);
  useEffect(() => {
    if (recording === null) return;
    return () => {
      engine.stopRecording(what);
    };
  }, [engine, recording, what]);
  useEffect(
    () => () => {
      device.close();
    },
    [device],
  );
  return recording;
}
