import { transfer } from 'comlink';
import { exposeWorker } from '../workers/exposeWorker';
import { castMember, type CastMember } from '@vast-swarm/core/stock';
import type { DoorNews } from '@vast-swarm/core/formats';
import { clock } from '../workers/clock';
import type { ArrivedPose } from '../engine/recorders/motion';
import { openServer, openStandIn } from './sources';

/** Performers that are there. */
export interface Heard {
  cast: CastMember[];
  /** x, y, z of all joints of each. */
  places: Float32Array[];
  /** Poses of each during the last second. */
  rates: number[];
  /** Where joints are sent to; empty where that is not known. */
  address: string;
  /** Messages of the last second that were not understood, and why the last of them was not. */
  refused: number;
  why: string;
  /** Whether the server is gone. */
  lost: boolean;
}

export interface JointsWorker {
  /**
   * Hears joints.
   *
   * @param from a motion that stands in, or the address of a server
   * @param tell is told what is heard, some times a second
   * @throws Error where nothing can be heard
   */
  open: (
    from: { standIn: string } | { server: string },
    tell: (heard: Heard) => void,
  ) => Promise<void>;
  /** Sends poses of those who are there now to a port; gives who they are, and how they stand. */
  send: (port: MessagePort) => Promise<{ cast: CastMember[]; first: Float32Array }>;
  /** Sends no more. */
  rest: () => void;
}

/** Milliseconds between what is told. */
const TELL_EVERY = 50;
/** Milliseconds for which those who are there have to be the same, before they are recorded; and for how long that is waited for. */
const [SETTLED, PATIENCE] = [300, 2000];

interface Person {
  joints: string[];
  bones: Record<string, string>;
  places: Float32Array | null;
  /** When poses came, in seconds. */
  came: number[];
  /** Where the joints of who is recorded are among these; null before that was looked for. */
  order: number[] | null;
}

let people = new Map<string, Person>();
let changed = 0;
let sending: { port: MessagePort; cast: CastMember[] } | null = null;
let state: Pick<Heard, 'address' | 'refused' | 'why' | 'lost'> = {
  address: '',
  refused: 0,
  why: '',
  lost: false,
};

function hear(news: DoorNews, arrived: number): void {
  if ('present' in news) {
    changed = performance.now();
    people = new Map(
      news.present.map(({ name, joints, bones }) => {
        const before = people.get(name);
        const same = before?.joints.join('\n') === joints.join('\n');
        const places = same ? before.places : null;
        return [name, { joints, bones, places, came: before?.came ?? [], order: null }];
      }),
    );
    state.lost = false;
  } else if ('pose' in news) {
    const person = people.get(news.pose);
    if (!person) return;
    if (!person.places) changed = performance.now();
    person.places = Float32Array.from(news.places);
    person.came = [...person.came.filter((t) => t > arrived - 1), arrived];
    pass(news.pose, person, news.time, arrived);
  } else state = { ...state, ...news };
}

/** Sends a pose on to who records it. */
function pass(name: string, person: Person, time: number, arrived: number): void {
  if (!sending) return;
  const { joints, places } = person;
  const { port, cast } = sending;
  const who = cast.findIndex((c) => c.name === name);
  if (who < 0) return;
  // Joints that have come since then are in no take.
  person.order ??= cast[who]!.joints.map((joint) => joints.indexOf(joint.name));
  const own = person.order.flatMap((joint) =>
    joint < 0 ? [0, 0, 0] : [...places!.subarray(3 * joint, 3 * joint + 3)],
  );
  const pose: ArrivedPose = [who, time, arrived, Float32Array.from(own)];
  port.postMessage(pose, [pose[3].buffer as ArrayBuffer]);
}

/** Those of whom a pose is known. */
function present(): { cast: CastMember[]; places: Float32Array[]; came: number[][] } {
  const there = [...people].filter(([, { places }]) => places !== null);
  return {
    cast: there.map(([name, p]) => castMember(name, p.joints, p.bones, p.places!)),
    places: there.map(([, p]) => p.places!),
    came: there.map(([, p]) => p.came),
  };
}

const worker: JointsWorker = {
  async open(from, tell) {
    const listener = {
      hear,
      lost: () => {
        state.lost = true;
      },
    };
    if ('standIn' in from) openStandIn(from.standIn, listener);
    else await openServer(from.server, listener);
    setInterval(() => {
      const { cast, places, came } = present();
      const since = clock() - 1;
      tell({ ...state, cast, places, rates: came.map((c) => c.filter((t) => t > since).length) });
    }, TELL_EVERY);
  },
  async send(port) {
    const until = performance.now() + PATIENCE;
    const unsettled = (): boolean =>
      present().cast.length === 0 || performance.now() - changed < SETTLED;
    while (unsettled() && performance.now() < until) {
      await new Promise((resolve) => setTimeout(resolve, TELL_EVERY));
    }
    const { cast, places } = present();
    sending = { port, cast };
    for (const person of people.values()) person.order = null;
    const first = Float32Array.from(places.flatMap((p) => [...p]));
    return transfer({ cast, first }, [first.buffer]);
  },
  rest() {
    sending = null;
  },
};
exposeWorker(worker);
