import { createContext, useContext, useEffect, useSyncExternalStore } from 'react';
import type { RecordedList } from '@vast-swarm/core/kinds';
import { jointNames } from '@vast-swarm/core/stock';
import type { Camera } from '../camera/camera';
import type { EngineClient } from '../engine/client';
import type { Joints } from '../joints/joints';
import type { Microphone } from '../sound/microphone';
import type { DeviceState } from '../live/liveDevice';
import type { LiveInputs } from '.';

export const LiveContext = createContext<LiveInputs | null>(null);

function useInput<K extends keyof LiveInputs>(which: K): [LiveInputs[K], DeviceState] {
  const inputs = useContext(LiveContext);
  if (!inputs) throw new Error('no live inputs here');
  const device = inputs[which];
  const known = (): DeviceState => device.state;
  return [device, useSyncExternalStore(device.subscribe, known, known)];
}

export const useMicrophone = (): [Microphone, DeviceState] => useInput('sounds');
export const useJoints = (): [Joints, DeviceState] => useInput('performers');
export const useCamera = (): [Camera, DeviceState] => useInput('pictures');

/** Names of the joints of those who are heard now, as a performer of the piece has them. */
export function useHeardJoints(): string[] {
  const { performers: joints } = useContext(LiveContext)!;
  // As a text, which stays the same while they move.
  const names = useSyncExternalStore(joints.told, () => {
    return jointNames(joints.heard?.cast ?? []).join('\n');
  });
  return names === '' ? [] : names.split('\n');
}

/** Records for an open piece as long as the device of a list does; the input is let go when the piece is closed. */
export function useRecording(engine: EngineClient, list: RecordedList): void {
  const [device, { recording }] = useInput(list);
  useEffect(() => {
    if (recording === null) return;
    return () => {
      engine.stopRecording(list);
    };
  }, [engine, recording, list]);
  useEffect(
    () => () => {
      device.close();
    },
    [device],
  );
}
