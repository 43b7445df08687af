import { compilePiece, PlanCache, type Plan, type Sources } from '@vast-swarm/core/plan';
import type { Piece } from '@vast-swarm/core/piece';
import { arrivedFiles, type StockFiles } from '@vast-swarm/core/stock';
import { Building } from './building';
import { buildFields } from './distanceFields';
import type { Looking } from './looking';
import type { EngineEvent } from './messages';

/** Makes plans of the pieces of a session, with the files that have arrived and all that was worked out before. */
export class Compiler {
  /** Files of the stock, by hash. */
  files: StockFiles = new Map();
  private readonly cache = new PlanCache();
  private readonly building: Building;

  /**
   * @param looking who looks at moving pictures, where that is not done here
   * @param asked counts what the page has asked for, where memory can be shared
   */
  constructor(
    private readonly send: (message: EngineEvent) => void,
    private readonly looking: Looking | undefined,
    asked: Int32Array | null,
  ) {
    this.building = new Building(asked, this.tell);
  }

  private readonly tell = (name: string, part: number): void => {
    this.send({ type: 'building', name, part });
  };

  /** Takes files; what has been here keeps what was worked out of it. */
  take(files: StockFiles): void {
    const before = this.files;
    const arrived = [...arrivedFiles(files)];
    this.files = new Map(arrived.map(([key, data]) => [key, before.get(key) ?? data]));
    if (this.looking) this.looking.files = this.files;
  }

  /** Long work goes on, see Building. */
  reportProgress(what: string, part: number): void {
    this.building.reportProgress(what, part);
  }

  /**
   * Builds what a plan of the piece needs that takes long.
   *
   * @param slice milliseconds of work between looks for something newer
   * @param latest the piece that is wanted by now
   */
  prepare(piece: Piece, slice: number, latest: () => Piece | null): Promise<void> {
    return buildFields(piece, this.files, slice, latest, this.tell);
  }

  /** The plan of a piece; null where something was asked for meanwhile. */
  plan(piece: Piece, { bakes, live }: Pick<Sources, 'bakes' | 'live'>): Plan | null {
    const { cache, files } = this;
    const looker = this.looking?.looker;
    const sources = { cache, files, bakes, live, looker };
    return this.building.during(() => compilePiece(piece, sources)) ?? null;
  }
}
