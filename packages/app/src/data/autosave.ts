import { liveQuery } from 'dexie';
import equal from 'fast-deep-equal';
import { validatePiece, type Piece } from '@vast-swarm/core/piece';
import { dismissed, noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store } from '../store/store';
import { library, type StoredPiece } from './db';
import { dropPending, writePending } from './pending';
import { addPiece, holdUnkept, keepPiece, letUnkept, savePiece, type OpenedPiece } from './pieces';
import { keptAgain, tellUnkept } from './trouble';

/**
 * Keeps the open piece in the browser's storage as it changes, and follows what other tabs make of it: who has a piece
 * open sees one and the same.
 */
class Keeping {
  /** The piece in the storage, as far as it is known here, and its version. */
  private kept: Piece;
  private rev: number;
  private saving = false;
  /** The piece that the storage did not take: it is not asked again before there is a change. */
  private refused: Piece | null = null;
  private following = false;
  private gone = false;
  /** Whether the storage is known to have it. */
  private there: boolean;
  /** The piece as it was here at the moment when another tab changed it too. */
  private own: Piece | null = null;
  /** As it was when it was left. */
  private left: Piece | null = null;
  private readonly stops: (() => void)[] = [];

  constructor(
    private readonly id: string,
    { piece, rev, there }: OpenedPiece,
  ) {
    this.kept = piece;
    this.rev = rev;
    this.there = there;
    this.stops.push(store.subscribe(() => void this.save()));
    const seen = liveQuery(() => library.pieces.get(id)).subscribe({
      next: (there) => {
        this.found(there);
      },
      // What cannot be read is told when it is written.
      error: () => undefined,
    });
    this.stops.push(() => {
      seen.unsubscribe();
    });
    const leave = (): void => {
      if (document.visibilityState === 'hidden') this.writeDown();
    };
    // A page may end after either, and without the other.
    document.addEventListener('visibilitychange', leave);
    window.addEventListener('pagehide', this.writeDown);
    this.stops.push(() => {
      document.removeEventListener('visibilitychange', leave);
      window.removeEventListener('pagehide', this.writeDown);
    });
  }

  /** The piece as it is here; null where there is none yet. */
  private get piece(): Piece | null {
    if (this.left) return this.left;
    const { id, piece } = store.getState().piece;
    return id === this.id ? piece : null;
  }

  /** Saves at once; what changes meanwhile is saved right after. */
  private async save(): Promise<void> {
    const { piece } = this;
    if (this.saving || this.following || this.gone || !piece) return;
    if (piece === this.kept || piece === this.refused) return;
    this.saving = true;
    try {
      const saved = await savePiece(this.id, piece, this.rev);
      if ('rev' in saved) this.took(piece, saved.rev);
      else if ('other' in saved) this.follow(saved.other, true);
      else if (this.there) this.lost();
      // The storage did not take it before; perhaps it does now.
      else this.took(piece, await keepPiece(this.id, piece));
    } catch (error) {
      holdUnkept(this.id, piece);
      this.refused = piece;
      tellUnkept('changes are not saved', error);
    }
    this.saving = false;
    await this.save();
  }

  private took(piece: Piece, rev: number): void {
    this.kept = piece;
    this.rev = rev;
    this.there = true;
    letUnkept(this.id);
    dropPending(this.id);
    keptAgain();
  }

  /** Follows the storage: the piece is there, or has changed. */
  private found(there: StoredPiece | undefined): void {
    if (!there) {
      void this.missed();
      return;
    }
    this.there = true;
    if (this.gone) store.dispatch(dismissed('gone'));
    this.gone = false;
    if ((there.rev ?? 0) > this.rev && !this.saving) this.follow(there, this.piece !== this.kept);
  }

  /**
   * Takes over what another tab has made of it.
   *
   * @param mine whether there are edits here that it does not have
   */
  private follow(there: StoredPiece, mine: boolean): void {
    const own = this.piece;
    const next = validatePiece(there.piece);
    this.rev = there.rev ?? 0;
    if (!own || equal(own, next)) {
      if (own) this.kept = own;
      return;
    }
    this.following = true;
    store.dispatch(pieceActions.followed(next));
    this.following = false;
    this.kept = store.getState().piece.piece ?? next;
    if (!mine) return;
    this.own = own;
    const message =
      'This piece was changed in another tab at the same moment. Here is what was made there; your own change can be kept as a copy.';
    store.dispatch(noticed({ key: 'twice', kind: 'note', message, action: 'keepCopy' }));
  }

  /** It was not there when it was looked for; what was found may be older than what has been stored since. */
  private async missed(): Promise<void> {
    if (this.gone || !this.there) return;
    const now = await library.pieces.get(this.id);
    if (!now) this.lost();
  }

  /** It was deleted elsewhere. */
  private lost(): void {
    this.gone = true;
    const message =
      'This piece was deleted in another tab. It is here for as long as this page is open.';
    store.dispatch(noticed({ key: 'gone', kind: 'wrong', message, action: 'keepPiece' }));
  }

  /** Puts it back as it is here. */
  async keep(): Promise<void> {
    const { piece } = this;
    if (!piece) return;
    try {
      const rev = await keepPiece(this.id, piece);
      this.gone = false;
      this.took(piece, rev);
    } catch (error) {
      holdUnkept(this.id, piece);
      tellUnkept('the piece is in this page alone', error);
    }
  }

  /** Keeps what was changed here, beside what another tab has made of it. */
  async keepCopy(): Promise<void> {
    if (!this.own) return;
    const name = `${this.own.name} copy`.slice(0, 120);
    await addPiece({ ...this.own, name });
    const message = `Your change is kept as '${name}', on the home page.`;
    store.dispatch(noticed({ key: 'twice', kind: 'note', message }));
  }

  /** The page may end now. */
  private readonly writeDown = (): void => {
    const { piece } = this;
    if (piece && piece !== this.kept && !this.gone) writePending(this.id, this.rev, piece);
  };

  stop(): void {
    for (const stop of this.stops) stop();
    const { piece } = this;
    if (!piece || piece === this.kept || this.gone) return;
    this.left = piece;
    // Whoever opens it before it is stored gets it as it is.
    holdUnkept(this.id, piece);
    void this.save();
  }
}

let current: Keeping | null = null;

/** Keeps the open piece. Gives a function that stops it. */
export function autosave(id: string, opened: OpenedPiece): () => void {
  const keeping = new Keeping(id, opened);
  current = keeping;
  return () => {
    keeping.stop();
    if (current === keeping) current = null;
  };
}

/** Puts the open piece back, which was deleted elsewhere. */
export async function keepOpenPiece(): Promise<void> {
  await current?.keep();
}

/** Keeps what was changed here, beside what another tab has made of the open piece. */
export async function keepCopy(): Promise<void> {
  await current?.keepCopy();
}
