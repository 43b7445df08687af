import type { Moved } from '@vast-swarm/core/formats';

/** Status bytes of what is looked at: MIDI 1.0, channel voice messages. */
const [NOTE_OFF, NOTE_ON, CONTROL] = [0x80, 0x90, 0xb0];

/** The movement that a message tells of; null where it tells of none. */
export function movedBy(message: ArrayLike<number>): Moved | null {
  const [status = 0, number = 0, value = 0] = Array.from(message);
  const channel = String((status & 0x0f) + 1);
  const kind = status & 0xf0;
  if (kind === CONTROL)
    return { source: `midi ${channel} control ${String(number)}`, value: value / 127 };
  if (kind !== NOTE_ON && kind !== NOTE_OFF) return null;
  // A note that is struck with no force is let go.
  const struck = kind === NOTE_ON && value > 0;
  return { source: `midi ${channel} note ${String(number)}`, value: struck ? 1 : 0 };
}

/**
 * Hears all MIDI inputs of this machine, those too that are plugged in later.
 *
 * @param ask whether the browser may ask for leave to
 * @returns what ends it; null where the browser has no MIDI, or may not use it
 */
export async function hearMidi(
  ask: boolean,
  call: (moved: Moved) => void,
): Promise<(() => void) | null> {
  try {
    if (!('requestMIDIAccess' in navigator)) return null;
    if (!ask && !(await mayHearMidi())) return null;
    const access = await navigator.requestMIDIAccess();
    const hear = ({ data }: MIDIMessageEvent): void => {
      const moved = data && movedBy(data);
      if (moved) call(moved);
    };
    const listen = (): void => {
      for (const input of access.inputs.values()) input.onmidimessage = hear;
    };
    access.onstatechange = listen;
    listen();
    return () => {
      access.onstatechange = null;
      for (const input of access.inputs.values()) input.onmidimessage = null;
    };
  } catch {
    return null;
  }
}

async function mayHearMidi(): Promise<boolean> {
  const { state } = await navigator.permissions.query({ name: 'midi' });
  return state === 'granted';
}
