import type { OscMessageOutput, OscPacketOutput, TimeTag } from 'osc-min';

/** Bundles within bundles, so deep at the most. */
const DEEPEST = 8;
/** Seconds from 1900, where time tags begin, to 1970. */
const EPOCH = 2_208_988_800;

/** The second of a time tag since 1970; undefined for the one that means `at once` (Open Sound Control 1.0). */
function secondOf([seconds, part]: TimeTag): number | undefined {
  return seconds === 0 ? undefined : seconds - EPOCH + part / 2 ** 32;
}

/** A message with the second since 1970 of its bundle; undefined where it says at once, or stands in none. */
export interface TimedMessage {
  message: OscMessageOutput;
  time: number | undefined;
}

/**
 * The messages of a packet, in order, out of all its bundles.
 *
 * @throws Error that says what is wrong with it
 */
export function messagesOf(packet: OscPacketOutput, time?: number, depth = 0): TimedMessage[] {
  if (packet.oscType !== 'bundle') return [{ message: packet, time }];
  if (depth === DEEPEST) throw new Error('bundles within bundles are too deep');
  const own = secondOf(packet.timetag) ?? time;
  return packet.elements.flatMap((element) => messagesOf(element, own, depth + 1));
}
