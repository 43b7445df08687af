import { DOOR, type DoorNews, type Present, type SentPose } from '@vast-swarm/core/formats';

/** Milliseconds for which what belongs to one pose is waited for, and between what is passed on. */
const GATHER = 4;
/** Poses of one performer that are passed on in that time. */
const MOST_POSES = 4;
/** Milliseconds: who is silent for so long can be played by another sender, and is gone. */
const [GIVES_WAY, GONE] = [1000, 5000];
/** Messages a second; what is beyond is not looked at. */
const MOST_MESSAGES = 20_000;

interface Player {
  /** Who sends them. */
  sender: string;
  heard: number;
  /** Seconds of the newest pose, and whether they are by a clock of the sender. */
  newest: number;
  timed: boolean;
  joints: Map<string, readonly number[]>;
  bones: Map<string, string>;
  /** Poses that were not passed on yet, the last one may get more. */
  waiting: { time: number; joints: Map<string, readonly number[]> }[];
}

/** Where joints come in, from whoever sends them, and go on to all who watch. Times are in milliseconds. */
export class JointDoor {
  private readonly players = new Map<string, Player>();
  private readonly watchers = new Set<(news: DoorNews) => void>();
  private timer: NodeJS.Timeout | null = null;
  private passed = -Infinity;
  private changed = false;
  private messages = 0;
  private refused = 0;
  private why = '';
  private readonly beat: NodeJS.Timeout;

  /**
   * @param address where joints are sent to, for those who watch
   * @param log is told once a second what was not understood
   */
  constructor(
    readonly address: string,
    private readonly log: (line: string) => void,
    private readonly now: () => number = () => performance.now(),
  ) {
    this.beat = setInterval(() => {
      this.everySecond();
    }, 1000);
    this.beat.unref();
  }

  /** Calls with all that comes in from now on, who is there first; gives what ends that. */
  watch(call: (news: DoorNews) => void): () => void {
    this.watchers.add(call);
    call({ present: this.present() });
    return () => this.watchers.delete(call);
  }

  /** Whether a message of a sender may be looked at: there are not too many of them. */
  admits(): boolean {
    this.messages += 1;
    if (this.messages <= MOST_MESSAGES) return true;
    this.refuse(`more than ${String(MOST_MESSAGES)} messages a second`);
    return false;
  }

  /** Takes a pose in. @throws Error that says why it is not taken */
  take(sender: string, sent: SentPose): void {
    const player = this.playerOf(sender, sent.performer);
    const { joints, bones } = player;
    const fresh = Object.keys(sent.joints).filter((name) => !joints.has(name));
    if (joints.size + fresh.length > DOOR.joints) {
      throw new Error(`${sent.performer} has more than ${String(DOOR.joints)} joints`);
    }
    for (const [joint, parent] of Object.entries(sent.bones)) {
      if (bones.get(joint) === parent) continue;
      if (!bones.has(joint) && bones.size >= DOOR.joints) {
        throw new Error(`${sent.performer} has more than ${String(DOOR.joints)} bones`);
      }
      bones.set(joint, parent);
      this.changed = true;
    }
    if (fresh.length > 0) this.changed = true;
    // What has a time is whole.
    const early = sent.time !== undefined && this.now() - this.passed >= GATHER;
    this.timer ??= setTimeout(
      () => {
        this.passOn();
      },
      early ? 0 : GATHER,
    );
    if (Object.keys(sent.joints).length > 0) this.move(player, sent);
  }

  /** Adds to a pose that waits, or begins one. */
  private move(player: Player, sent: SentPose): void {
    const { joints } = player;
    if (sent.time !== undefined) player.timed = true;
    // Of one sender all times are of one clock.
    const time = sent.time ?? (player.timed ? player.newest : this.now() / 1000);
    let pose = player.waiting.at(-1);
    // What comes without a time belongs to what has just come.
    if (!pose || (sent.time !== undefined && pose.time !== sent.time)) {
      pose = { time, joints: new Map(joints) };
      player.waiting.push(pose);
      if (player.waiting.length > MOST_POSES) player.waiting.shift();
    }
    const newer = time >= player.newest || time < player.newest - 1;
    if (newer) player.newest = time;
    for (const [name, place] of Object.entries(sent.joints)) {
      pose.joints.set(name, place);
      if (newer || !joints.has(name)) joints.set(name, place);
    }
  }

  private playerOf(sender: string, name: string): Player {
    const now = this.now();
    let player = this.players.get(name);
    if (!player) {
      if (this.players.size >= DOOR.performers) {
        throw new Error(`more than ${String(DOOR.performers)} performers`);
      }
      player = {
        sender,
        heard: now,
        newest: 0,
        timed: false,
        joints: new Map(),
        bones: new Map(),
        waiting: [],
      };
      this.players.set(name, player);
      this.changed = true;
    }
    if (player.sender !== sender) {
      if (now - player.heard < GIVES_WAY) {
        throw new Error(
          `${name} is sent by ${player.sender} already; ${sender} waits for it to end`,
        );
      }
      Object.assign(player, { sender, newest: 0, timed: false });
    }
    player.heard = now;
    return player;
  }

  /** A message was not taken. */
  refuse(why: string): void {
    this.refused += 1;
    // It may hold what was sent; nobody is to write on a terminal with it.
    this.why = why.replace(/\p{C}/gu, '?').slice(0, 200);
  }

  private passOn(): void {
    this.timer = null;
    this.passed = this.now();
    if (this.changed) this.tell({ present: this.present() });
    this.changed = false;
    for (const [name, { waiting, joints }] of this.players) {
      for (const pose of waiting) {
        const places = [...joints].flatMap(([joint, place]) => pose.joints.get(joint) ?? place);
        this.tell({ pose: name, time: pose.time, places });
      }
      waiting.length = 0;
    }
  }

  private everySecond(): void {
    const { address, messages, refused, why } = this;
    [this.messages, this.refused] = [0, 0];
    if (refused > 0) this.log(`Joints: ${String(refused)} messages were not taken: ${why}.`);
    const gone = [...this.players].filter(([, { heard }]) => this.now() - heard > GONE);
    for (const [name] of gone) this.players.delete(name);
    if (gone.length > 0) this.tell({ present: this.present() });
    this.tell({ address, messages, refused, why });
  }

  private present(): Present[] {
    return [...this.players].map(([name, { joints, bones }]) => ({
      name,
      joints: [...joints.keys()],
      bones: Object.fromEntries(bones),
    }));
  }

  private tell(news: DoorNews): void {
    for (const call of this.watchers) call(news);
  }

  close(): void {
    clearInterval(this.beat);
    if (this.timer) clearTimeout(this.timer);
  }
}
