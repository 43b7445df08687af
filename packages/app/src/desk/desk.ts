import { useSyncExternalStore } from 'react';
import type { ControlValue } from '@vast-swarm/core/feeds';
import type { Piece } from '@vast-swarm/core/piece';
import { Listeners } from '../live/listeners';
import { DeskLine, type Command, type Standing } from '../show/channel';
import type { Showman } from '../show/showKeys';
import type { OpenShow } from '../show/useShow';

/** Milliseconds after which an output that says nothing is taken for gone. */
const GONE_AFTER = 4000;

/** The operator's side of a show: asks its output for things, and knows how that stands. */
export class Desk implements Showman {
  /** Null where there is no output. */
  standing: Standing | null = null;
  private open: OpenShow | null = null;
  /** The picture that is seen, small. */
  picture: Blob | null = null;
  private readonly watchers = new Listeners();
  readonly subscribe = this.watchers.add;
  private readonly pictureTold = new Listeners();
  readonly onPicture = this.pictureTold.add;
  private line: DeskLine | null = null;
  private heardAt = 0;

  constructor(private readonly id: string) {}

  /** Begins to listen. Gives what ends it. */
  start(): () => void {
    const line = new DeskLine(
      this.id,
      (standing) => {
        this.heardAt = performance.now();
        this.put(standing);
      },
      (picture) => {
        this.picture = picture;
        this.pictureTold.tell();
      },
    );
    this.line = line;
    const timer = setInterval(() => {
      if (performance.now() - this.heardAt > GONE_AFTER) this.put(null);
      line.ask({ do: 'tell' });
    }, 1000);
    return () => {
      clearInterval(timer);
      line.close();
      this.line = null;
    };
  }

  /** The show as it is stored by now. */
  setShow(open: OpenShow | null): void {
    this.open = open;
  }

  private put(standing: Standing | null): void {
    this.standing = standing;
    this.watchers.tell();
  }

  /** Asks the output for an act. */
  do = (command: Command): void => {
    this.line?.ask(command);
  };

  get told(): Showman['told'] {
    return this.standing ?? { blackout: false, held: false, cue: null };
  }

  /** The piece that is seen. */
  get piece(): Piece | null {
    const { open, standing } = this;
    const entry = open?.show.entries.find((e) => e.id === standing?.present?.entry);
    return (entry && open?.pieces.get(entry.piece)) ?? null;
  }

  get controls(): Readonly<Record<string, ControlValue>> {
    return this.standing?.controls ?? {};
  }
}

/** A value of the output, drawn again when it is another. */
export function useStanding<T extends string | number | boolean | null>(
  desk: Desk,
  select: (standing: Standing | null) => T,
): T {
  return useSyncExternalStore(desk.subscribe, () => select(desk.standing));
}
