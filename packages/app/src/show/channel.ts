import type { ControlValue } from '@vast-swarm/core/feeds';
import type { NightRow } from '@vast-swarm/core/show';
import type { ShowAct } from '@vast-swarm/core/formats';
import type { EngineKind } from '../engine/messages';
import type { Play } from '../engine/plays';
import type { LinkState } from '../live/serverLink';

/** A desk's command to the output. */
export type Command =
  /** How does it stand? */
  | { do: 'tell' }
  /** Something is done with the present piece, or with all of the show. */
  | { do: 'act'; act: Play | ShowAct }
  | { do: 'letGo'; control: string }
  /** Another entry is to be the next. */
  | { do: 'call'; entry: string }
  | { do: 'test' | 'outside' | 'wall'; on: boolean }
  /** Back to the last good state. */
  | { do: 'panic' }
  /** The night begins anew; or one is seen again as it was. */
  | { do: 'anew' }
  | { do: 'replay'; rows: NightRow[] };

/** How the output stands, as desks are told. */
export interface Standing {
  /** Milliseconds since 1970; null before the night begins. */
  began: number | null;
  present: {
    entry: string;
    frame: number;
    /** Its first frame, and the one behind its last. */
    from: number;
    until: number;
    /** Seconds up to its end. */
    left: number;
    rate: number;
  } | null;
  coming: { entry: string; ready: boolean } | null;
  /** Whether what comes is to begin as soon as it is ready. */
  wanted: boolean;
  controls: Readonly<Record<string, ControlValue>>;
  /** The cue that began last. */
  cue: string | null;
  brightness: number;
  speed: number;
  blackout: boolean;
  held: boolean;
  test: boolean;
  replays: boolean;
  fps: number;
  lateFrames: number;
  engine: EngineKind | null;
  size: string;
  outside: LinkState;
  wall: LinkState;
  /** Watts that the wall takes, before its limit. */
  watts: number;
  trouble: string | null;
}

type Message =
  | { to: 'output'; command: Command }
  | { to: 'desk'; standing: Standing | null }
  /** The picture that is seen, small. */
  | { to: 'desk'; picture: Blob };

function channelOf(show: string): BroadcastChannel {
  return new BroadcastChannel(`vast-swarm show ${show}`);
}

/** The output's end of what it and its desks say to each other. */
export class OutputLine {
  private readonly channel: BroadcastChannel;

  constructor(show: string, heard: (command: Command) => void) {
    this.channel = channelOf(show);
    this.channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.to === 'output') heard(data.command);
    };
  }

  show(picture: Blob): void {
    this.channel.postMessage({ to: 'desk', picture } satisfies Message);
  }

  tell(standing: Standing | null): void {
    this.channel.postMessage({ to: 'desk', standing } satisfies Message);
  }

  /** Desks are told that nobody is here any more. */
  close(): void {
    this.tell(null);
    this.channel.close();
  }
}

/** A desk's end. */
export class DeskLine {
  private readonly channel: BroadcastChannel;

  /**
   * @param told how the output stands; null where it is gone
   * @param shown what is seen, small
   */
  constructor(
    show: string,
    told: (standing: Standing | null) => void,
    shown: (picture: Blob) => void,
  ) {
    this.channel = channelOf(show);
    this.channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.to !== 'desk') return;
      if ('picture' in data) shown(data.picture);
      else told(data.standing);
    };
    this.ask({ do: 'tell' });
  }

  ask(command: Command): void {
    this.channel.postMessage({ to: 'output', command } satisfies Message);
  }

  close(): void {
    this.channel.close();
  }
}
