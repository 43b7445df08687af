import {
  actOf,
  type ActMessage,
  NotFollowed,
  showActOf,
  toldOf,
  type ControlAnswer,
  type ControlMessage,
  type Moved,
  type Offer,
  type OutsideAct,
  type RunnerNews,
  type RunnerTold,
} from '@vast-swarm/core/formats';
import { calledName } from '@vast-swarm/core/piece';
import type { ControlValue } from '@vast-swarm/core/feeds';

/** Milliseconds in which what is set of one control is joined: the last counts. */
const GATHER = 4;
/** Milliseconds between values that are told to who watches. */
const TELL_EVERY = 100;
/** Others that are moved in that time. */
const MOST_MOVED = 64;
/** Messages a second of one sender, and answers to one; what is beyond is not looked at. */
const [MOST_MESSAGES, MOST_ANSWERS] = [20_000, 50];

const TOO_MANY = `there are more than ${String(MOST_MESSAGES)} messages a second; send fewer`;

/** Messages that may wait for their time. */
const MOST_LATER = 2000;
const TOO_MANY_LATER = `more than ${String(MOST_LATER)} messages wait for their time; send them later`;

const NOTHING: Offer = { piece: '', controls: [], cues: [], learnt: [] };

/** An act that was done, as its sender is told. */
function doneWords(message: ActMessage): string {
  if ('set' in message) return calledName(message.set);
  if ('cue' in message) return calledName(message.cue);
  if ('piece' in message) return calledName(message.piece);
  return 'next' in message ? 'next' : 'blackout';
}

/** Somebody who runs the piece from outside. */
export interface Client {
  name: string;
  answer: (answer: ControlAnswer) => void;
}

/** Where a piece is run from outside: checks what comes in, passes it on to the page that runs it, and answers. */
export class ControlDoor {
  private offer = NOTHING;
  private values: Record<string, ControlValue> = {};
  private runner: ((told: RunnerTold) => void) | null = null;
  /** Acts that wait to be passed on; of one control the last. */
  private readonly sets = new Map<string, OutsideAct>();
  /** Cues, and what is done with all of a show. */
  private fired: OutsideAct[] = [];
  /** Where others stand, by what they are learnt as. */
  private readonly moved = new Map<string, number>();
  private timer: NodeJS.Timeout | null = null;
  private readonly watchers = new Map<
    string,
    { client: Client; told: Record<string, ControlValue> }
  >();
  /** Messages of this second, by sender: who floods takes nothing from the others. */
  private messages = new Map<string, number>();
  /** Messages that wait for their time. */
  private later = 0;
  private refused = 0;
  private why = '';
  private answers = new Map<string, number>();
  private readonly beats: NodeJS.Timeout[];

  /** @param log is told once a second what was not followed */
  constructor(private readonly log: (line: string) => void) {
    this.beats = [
      setInterval(() => {
        this.everySecond();
      }, 1000),
      setInterval(() => {
        this.tellWatchers();
      }, TELL_EVERY),
    ];
    for (const beat of this.beats) beat.unref();
  }

  /** A page runs a piece; the one that came last counts. Gives what is called with its news, and what ends it. */
  run(call: (told: RunnerTold) => void): { news: (news: RunnerNews) => void; end: () => void } {
    this.runner = call;
    this.offer = NOTHING;
    this.values = {};
    return {
      news: (news) => {
        if (this.runner !== call) return;
        if ('offer' in news) this.offer = news.offer;
        else Object.assign(this.values, news.values);
      },
      end: () => {
        if (this.runner !== call) return;
        this.runner = null;
        this.offer = NOTHING;
        this.values = {};
      },
    };
  }

  /**
   * Follows a message, or says to its sender why not: one that there is no time for, too. It is read and counted as it
   * comes, also where it is to be followed later.
   *
   * @param seconds until it is followed
   */
  hear(client: Client, read: () => ControlMessage, seconds = 0): void {
    this.take(client, seconds, () => {
      const message = read();
      return () => {
        this.follow(client, message);
      };
    });
  }

  /** Counts and reads what comes, and does it in its time. */
  private take(client: Client, seconds: number, read: () => () => void): void {
    this.tried(client, () => {
      this.count(client);
      const act = read();
      this.inTime(seconds, () => {
        this.tried(client, act);
      });
    });
  }

  private follow(client: Client, message: ControlMessage): void {
    if ('list' in message) client.answer(toldOf(this.offer, this.values));
    else if ('watch' in message) this.watch(client, message.watch);
    else this.act(client, message);
  }

  /** Does something for somebody, who is told where it is not followed. */
  private tried(client: Client, act: () => void): void {
    try {
      act();
    } catch (error) {
      this.refuse(`${client.name}: ${error instanceof Error ? error.message : String(error)}`);
      this.answer(client, {
        error: error instanceof NotFollowed ? error.message : 'this cannot be read',
      });
    }
  }

  private count({ name }: Client): void {
    const count = (this.messages.get(name) ?? 0) + 1;
    this.messages.set(name, count);
    if (count > MOST_MESSAGES) throw new NotFollowed(TOO_MANY);
  }

  private inTime(seconds: number, act: () => void): void {
    if (seconds <= 0) {
      act();
      return;
    }
    if (this.later >= MOST_LATER) throw new NotFollowed(TOO_MANY_LATER);
    this.later += 1;
    setTimeout(() => {
      this.later -= 1;
      act();
    }, 1000 * seconds).unref();
  }

  private act(client: Client, message: ActMessage): void {
    if (!this.runner) throw new NotFollowed('no piece is being run; open one and let it listen');
    const act =
      'set' in message || 'cue' in message
        ? actOf(this.offer, message)
        : showActOf(this.offer, message);
    if ('control' in act) this.sets.set(act.control, act);
    else this.fired.push(act);
    this.passSoon();
    this.answer(client, { done: doneWords(message) });
  }

  /** Something with an address of its own is moved: the page may have learnt it, or may be about to. */
  move(client: Client, moved: Moved, seconds = 0): void {
    this.take(client, seconds, () => () => {
      this.takeMoved(moved);
    });
  }

  private takeMoved({ source, value }: Moved): void {
    if (this.moved.size < MOST_MOVED || this.moved.has(source)) this.moved.set(source, value);
    this.passSoon();
    if (!this.offer.learnt.includes(source)) {
      throw new NotFollowed(`${source} is not known, and no control has learnt it`);
    }
  }

  private passSoon(): void {
    this.timer ??= setTimeout(() => {
      this.passOn();
    }, GATHER);
  }

  private answer(client: Client, answer: ControlAnswer): void {
    const count = (this.answers.get(client.name) ?? 0) + 1;
    this.answers.set(client.name, count);
    if (count <= MOST_ANSWERS) client.answer(answer);
  }

  private passOn(): void {
    this.timer = null;
    const acts = [...this.sets.values(), ...this.fired];
    const moved = [...this.moved].map(([source, value]) => ({ source, value }));
    this.sets.clear();
    this.moved.clear();
    this.fired = [];
    this.runner?.({ acts, moved });
  }

  private watch(client: Client, on: boolean): void {
    if (!on) this.leave(client.name);
    else this.watchers.set(client.name, { client, told: {} });
  }

  /** Somebody is gone. */
  leave(name: string): void {
    this.watchers.delete(name);
  }

  /** Tells watchers values that have changed. */
  private tellWatchers(): void {
    for (const watcher of this.watchers.values()) {
      const now = this.offer.controls.flatMap(({ id, name }) => {
        const value = this.values[id];
        return value === undefined ? [] : [[calledName(name), value] as const];
      });
      const values = Object.fromEntries(now.filter(([name, v]) => watcher.told[name] !== v));
      if (Object.keys(values).length === 0) continue;
      Object.assign(watcher.told, values);
      watcher.client.answer({ values });
    }
  }

  /** A message was not followed. */
  refuse(why: string): void {
    this.refused += 1;
    this.why = why.replace(/\p{C}/gu, '?').slice(0, 300);
  }

  private everySecond(): void {
    const { refused, why } = this;
    this.refused = 0;
    this.answers = new Map();
    this.messages = new Map();
    if (refused > 0) this.log(`Controls: ${String(refused)} messages were not followed: ${why}.`);
  }

  close(): void {
    for (const beat of this.beats) clearInterval(beat);
    if (this.timer) clearTimeout(this.timer);
  }
}
