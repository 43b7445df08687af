import type { NightRow } from '@vast-swarm/core/show';
import { keepNight } from '../data/nights';
import type { StoredNight } from '../data/db';

/** Milliseconds between two times that a night is kept. */
const KEEP_EVERY = 1000;

/** Writes down what happens in a night, and keeps it in the browser as it goes. */
export class NightLog {
  private rows: NightRow[] = [];
  private timer: ReturnType<typeof setTimeout> | null = null;
  private keeping: Promise<void> = Promise.resolve();

  /**
   * @param standing how the night stands; null before it begins
   * @param trouble is told when it cannot be kept
   */
  constructor(
    private readonly standing: () => StoredNight | null,
    private readonly trouble: (message: string) => void,
  ) {}

  add(row: NightRow): void {
    this.rows.push(row);
    this.keepSoon();
  }

  keepSoon(): void {
    this.timer ??= setTimeout(() => {
      this.keep();
    }, KEEP_EVERY);
  }

  /** Keeps it now, behind what is being kept. */
  keep(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.keeping = this.keeping.then(async () => {
      const night = this.standing();
      if (!night) return;
      const { rows } = this;
      this.rows = [];
      try {
        await keepNight(night, rows);
      } catch (error) {
        // They are kept with the next.
        this.rows = [...rows, ...this.rows];
        const why = error instanceof Error ? error.message : String(error);
        this.trouble(`The night cannot be kept in the browser: ${why}`);
      }
    });
  }

  /** All so far belongs to a night that is over. Resolves when nothing of it is being kept any more. */
  async forget(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.rows = [];
    await this.keeping;
  }
}
