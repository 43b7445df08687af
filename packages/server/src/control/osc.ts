import type { RemoteInfo, Socket } from 'node:dgram';
import { toBuffer, type OscMessageInput, type OscMessageOutput } from 'osc-min';
import {
  controlMessage,
  NotFollowed,
  type ControlAnswer,
  type ControlMessage,
} from '@vast-swarm/core/formats';
import { hexOf, toLinear } from '@vast-swarm/core/feeds';
import type { TimedMessage } from '../oscMessages';
import type { ControlDoor } from './door';

/** Seconds: what is further ahead is done at once. */
const FURTHEST = 60;

/** Whether an address is one of ours. */
function isOurs(address: string): boolean {
  return /^\/(control|cue|piece|next|blackout|list|watch)(\/|$)/.test(address);
}

/** An argument as a control may take it: a number, on or off, a colour, a text. */
function valueOf(arg: OscMessageOutput['args'][number] | undefined): unknown {
  if (!arg || !('value' in arg)) return undefined;
  const { value } = arg as { value: unknown };
  if (typeof value === 'bigint') return Number(value);
  if (typeof value !== 'object' || value === null || !('red' in value)) return value;
  const { red, green, blue } = value as Record<'red' | 'green' | 'blue', number>;
  return hexOf([toLinear(red / 255), toLinear(green / 255), toLinear(blue / 255)]);
}

/**
 * The request of a message: `/control/<name>` with a value and, if wanted, the seconds that it takes; `/cue/<name>`;
 * `/list`; `/watch` with 1 or 0; of a show `/piece/<name>`, `/next`, and `/blackout` with 1 or 0.
 *
 * @throws Error that says what is known
 */
export function askedBy({ address, args }: OscMessageOutput): ControlMessage {
  const [, what = '', ...rest] = address.split('/');
  const name = rest.join('/');
  const [first, second] = args.map(valueOf);
  if (what === 'control' && name) {
    const text = typeof first === 'string' && first.startsWith('[');
    const to: unknown = text ? (JSON.parse(first) as unknown) : first;
    return controlMessage({ set: name, to, ...(second === undefined ? {} : { over: second }) });
  }
  // As a button sends it: what is let go fires nothing.
  if (what === 'cue' && name) return controlMessage({ cue: name });
  if (what === 'piece' && name) return controlMessage({ piece: name });
  if (what === 'next') return { next: true };
  if (what === 'blackout') return { blackout: first !== 0 && first !== false };
  if (what === 'watch') return { watch: first !== 0 && first !== false };
  if (what === 'list') return { list: true };
  throw new NotFollowed(
    `${JSON.stringify(address.slice(0, 80))} is not known; known are /control/<name>, /cue/<name>, /piece/<name>, /next, /blackout, /list, /watch and /performer/<who>/joint/<name>`,
  );
}

/** Letting go of a button that fires a cue, or goes to a piece. */
function isLetGo({ address, args }: OscMessageOutput): boolean {
  const value = valueOf(args[0]);
  return /^\/(cue\/|piece\/|next$)/.test(address) && (value === 0 || value === false);
}

function answersOf(answer: ControlAnswer): OscMessageInput[] {
  // Who is followed is told nothing: a desk that sends a hundred values a second wants no answers.
  if ('done' in answer) return [];
  if ('error' in answer) return [{ address: '/answer/error', args: [answer.error] }];
  const plain = (v: unknown): string | number =>
    typeof v === 'number' ? v : typeof v === 'string' ? v : JSON.stringify(v);
  if ('values' in answer) {
    return Object.entries(answer.values).map(([name, value]) => ({
      address: `/value/${name}`,
      args: [plain(value)],
    }));
  }
  return [
    { address: '/answer/piece', args: [answer.piece] },
    ...answer.controls.map(({ called, holds, low, high, unit, value }) => ({
      address: `/answer/control/${called}`,
      args: [holds, plain(value), ...(low === undefined ? [] : [low, high!]), unit],
    })),
    ...answer.cues.map(({ called, name }) => ({ address: `/answer/cue/${called}`, args: [name] })),
    ...(answer.pieces ?? []).map(({ called, name }) => ({
      address: `/answer/piece/${called}`,
      args: [name],
    })),
  ];
}

/** A message of controls goes to the door, when it is time for it; its sender is answered. */
export function hearControl(
  socket: Socket,
  door: ControlDoor,
  { message, time }: TimedMessage,
  { address, port }: RemoteInfo,
): void {
  const hand = {
    name: `${address}:${String(port)}`,
    answer: (answer: ControlAnswer): void => {
      for (const input of answersOf(answer)) {
        const { buffer, byteOffset, byteLength } = toBuffer(input);
        // Whether it arrives is not known, and nobody waits for it.
        socket.send(new Uint8Array(buffer, byteOffset, byteLength), port, address, () => undefined);
      }
    },
  };
  if (isLetGo(message)) return;
  const value = valueOf(message.args[0]);
  const stands = typeof value === 'boolean' ? Number(value) : value;
  const ahead = time === undefined ? 0 : time - Date.now() / 1000;
  const seconds = ahead > 0 && ahead < FURTHEST ? ahead : 0;
  // What a desk of others sends, by addresses of its own.
  if (!isOurs(message.address) && typeof stands === 'number' && Number.isFinite(stands)) {
    door.move(hand, { source: `osc ${message.address}`.slice(0, 200), value: stands }, seconds);
  } else door.hear(hand, () => askedBy(message), seconds);
}
