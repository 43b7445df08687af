import { createContext, useContext, useEffect, useSyncExternalStore } from 'react';
import type { EngineClient } from '../engine/client';
import type { Microphone, MicrophoneState } from './microphone';

export const MicrophoneContext = createContext<Microphone | null>(null);

export function useMicrophone(): [Microphone, MicrophoneState] {
  const microphone = useContext(MicrophoneContext);
  if (!microphone) throw new Error('no microphone here');
  const known = (): MicrophoneState => microphone.state;
  return [microphone, useSyncExternalStore(microphone.subscribe, known, known)];
}

/** The sound of an open piece that is being recorded; the microphone is let go when the piece is closed. */
export function useRecording(engine: EngineClient, microphone: Microphone): string | null {
  const { subscribe } = microphone;
  const recording = useSyncExternalStore(subscribe, () => microphone.state.recording);
  useEffect(() => {
    if (recording === null) return;
    return () => {
      engine.stopListening();
    };
  }, [engine, recording]);
  useEffect(
    () => () => {
      microphone.close();
    },
    [microphone],
  );
  return recording;
}
