import { liveQuery } from 'dexie';
import { byTurn, canAct, frameCount, type JobAct } from '@vast-swarm/core/formats';
import { sentFiles } from '@vast-swarm/core/stock';
import type { Piece } from '@vast-swarm/core/piece';
import { library, type StoredRender } from '../data/db';
import { filesOf } from '../data/stock';
import { newId, TAB } from '../data/tab';
import { OneRender, type RenderState } from '../render/oneRender';
import { groupOf, type Settings } from '../formats/settings';
import { tellEnded } from './tellEnded';

/**
 * The renders of this browser: one at a time in each page, kept so that they go on when the page is loaded again. What a page
 * that is gone has left behind is taken over by another one.
 */

export interface BrowserRender {
  stored: StoredRender;
  /** While it runs: how far it is, and the latest frame, small. */
  live: (RenderState & { phase: 'running' }) | null;
  look: ImageBitmap | null;
  /** Whether this page makes it. */
  mine: boolean;
}

/** Milliseconds after which it is kept anew how far a render is. */
const KEEP_EVERY = 1000;

/** Without locks, as under an address that is not secure, no page knows of others. */
const locks = (): LockManager | null => ('locks' in navigator ? navigator.locks : null);
const lockOf = (tab: string): string => `vast-swarm renders ${tab}`;

class BrowserQueue {
  private readonly own = new Map<string, BrowserRender>();
  private others: readonly BrowserRender[] = [];
  private list: readonly BrowserRender[] = [];
  private readonly listeners = new Set<() => void>();
  private readonly watched = new Set<string>([TAB]);
  private running: { id: string; render: OneRender | null } | null = null;
  private kept = 0;
  private opened = false;

  /** Begins to look after renders that are there; more than once is as good as once. */
  open(): void {
    if (this.opened) return;
    this.opened = true;
    void locks()?.request(lockOf(TAB), () => new Promise(() => undefined));
    liveQuery(() => library.renders.toArray()).subscribe({
      next: (all) => {
        this.see(all);
      },
      // Without storage there are those of this page.
      error: () => undefined,
    });
    window.addEventListener('beforeunload', (event) => {
      if (this.losesWork()) event.preventDefault();
    });
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** In the order of their turns. */
  readonly renders = (): readonly BrowserRender[] => this.list;

  /** Takes a render; gives its name. */
  add(of: string, piece: Piece, settings: Settings, folder?: FileSystemDirectoryHandle): string {
    const id = newId();
    const stored: StoredRender = {
      id,
      of,
      tab: TAB,
      piece,
      settings,
      state: 'waiting',
      priority: 0,
      added: Date.now(),
      ended: null,
      done: 0,
      problem: null,
      note: null,
      seconds: 0,
      ...(folder ? { folder } : {}),
    };
    this.own.set(id, { stored, live: null, look: null, mine: true });
    void this.put(id, {});
    return id;
  }

  act(id: string, act: JobAct): void {
    const { stored } = this.own.get(id) ?? {};
    if (!stored || !canAct(stored, act)) return;
    const { priority, folder } = stored;
    switch (act) {
      case 'pause':
      case 'cancel':
        this.halt(id, act === 'pause' ? 'paused' : 'cancelled');
        break;
      case 'go':
      case 'retry':
        void allowed(folder).then((may) => {
          if (may) void this.put(id, { state: 'waiting', problem: null, ended: null });
          else void this.put(id, { note: 'Its folder may not be written into.' });
        });
        break;
      case 'sooner':
        void this.put(id, { priority: priority + 1 });
        break;
      case 'later':
        void this.put(id, { priority: priority - 1 });
    }
  }

  remove(id: string): void {
    if (this.running?.id === id) this.running.render?.cancel();
    this.own.delete(id);
    this.others = this.others.filter((r) => r.stored.id !== id);
    this.tell();
    void library.renders.delete(id).catch(() => undefined);
    this.dropFrames(id);
  }

  private halt(id: string, state: 'paused' | 'cancelled'): void {
    void this.put(id, { state, ended: state === 'cancelled' ? Date.now() : null });
    if (this.running?.id === id) this.running.render?.cancel();
    else if (state === 'cancelled') this.dropFrames(id);
  }

  private dropFrames(render: string): void {
    void library.renderFrames
      .where({ render })
      .delete()
      .catch(() => undefined);
  }

  /** The renders of all pages; those that nobody looks after any more are taken over. */
  private see(all: readonly StoredRender[]): void {
    const foreign = all.filter(({ id, tab }) => tab !== TAB && !this.own.has(id));
    this.others = foreign.map((stored) => ({ stored, live: null, look: null, mine: false }));
    this.tell();
    for (const { tab } of foreign) {
      if (this.watched.has(tab)) continue;
      this.watched.add(tab);
      const take = (): Promise<void> => this.takeOver(tab);
      // The page that has it holds its lock as long as it is there.
      void (locks()?.request(lockOf(tab), take) ?? take());
    }
  }

  private async takeOver(tab: string): Promise<void> {
    const left = await library.renders
      .where('tab')
      .equals(tab)
      .toArray()
      .catch(() => []);
    for (const given of left) {
      const stored = { ...given, tab: TAB };
      this.own.set(stored.id, { stored, live: null, look: null, mine: true });
      const resumes = stored.state === 'running' && (await mayWrite(stored.folder));
      const stops = stored.state === 'running' && !resumes;
      const note = stops ? 'Go on asks for the folder again.' : stored.note;
      void this.put(stored.id, {
        state: resumes ? 'waiting' : stops ? 'paused' : stored.state,
        note,
      });
    }
    this.others = this.others.filter((r) => r.stored.tab !== tab);
    this.tell();
  }

  /** Whether a page that is left loses what cannot be gone on with. */
  private losesWork(): boolean {
    const stored = this.running && this.own.get(this.running.id)?.stored;
    return stored ? groupOf(stored.settings.format) !== 'frames' : false;
  }

  private change(id: string, part: Partial<BrowserRender>): void {
    const before = this.own.get(id);
    if (!before) return;
    this.own.set(id, { ...before, ...part });
    this.tell();
  }

  /** Changes how a render stands, and keeps it; tells whether that was possible. */
  private put(id: string, part: Partial<StoredRender>): Promise<boolean> {
    const before = this.own.get(id);
    if (!before) return Promise.resolve(false);
    const stored = { ...before.stored, ...part };
    this.change(id, { stored });
    const kept = this.keep(stored);
    this.next();
    return kept;
  }

  private keep(stored: StoredRender): Promise<boolean> {
    // What is not kept is in this page as long as it is open.
    return library.renders.put(stored).then(
      () => true,
      () => false,
    );
  }

  private tell(): void {
    const all = [...this.own.values(), ...this.others];
    this.list = all.sort((a, b) => byTurn(a.stored, b.stored));
    for (const listener of this.listeners) listener();
  }

  private next(): void {
    if (this.running) return;
    const first = this.list.find((r) => r.mine && r.stored.state === 'waiting');
    if (first) void this.begin(first.stored.id);
  }

  private async begin(id: string): Promise<void> {
    this.running = { id, render: null };
    void this.put(id, { state: 'running', note: null });
    const { piece, settings, folder } = this.own.get(id)!.stored;
    const files = await filesOf(piece.stock).catch((error: unknown) => {
      return error instanceof Error ? error : new Error(String(error));
    });
    if (files instanceof Error) {
      this.hear(id, { phase: 'failed', message: files.message, done: 0 });
      return;
    }
    // It may have been halted meanwhile.
    const { state, done } = this.own.get(id)?.stored ?? { state: 'cancelled', done: 0 };
    if (state !== 'running') {
      this.hear(id, { phase: 'cancelled', done });
      return;
    }
    const job = { ...settings, id, piece, files: sentFiles(files), ...(folder ? { folder } : {}) };
    this.running.render = new OneRender(job, {
      state: (state) => {
        this.hear(id, state);
      },
      look: (look) => {
        this.change(id, { look });
      },
    });
  }

  private hear(id: string, state: RenderState): void {
    const ended = Date.now();
    switch (state.phase) {
      case 'running':
        this.progress(id, state);
        break;
      case 'done': {
        const { blob, note, seconds } = state;
        const made = blob ? { blob } : {};
        const all = { ...made, state: 'done', note, seconds, ended, done: state.frames } as const;
        // Without what has been made of them they are all that there is.
        void this.finish(id, all).then((kept) => {
          if (kept) this.dropFrames(id);
        });
        break;
      }
      case 'failed':
        void this.finish(id, { state: 'failed', problem: state.message, done: state.done, ended });
        break;
      case 'cancelled': {
        const paused = this.own.get(id)?.stored.state === 'paused';
        if (!paused) this.dropFrames(id);
        void this.finish(id, { done: state.done });
      }
    }
  }

  private progress(id: string, live: RenderState & { phase: 'running' }): void {
    const render = this.own.get(id);
    // It may have been halted, and tell of what it did before it knew.
    if (render?.stored.state !== 'running') return;
    const stored = { ...render.stored, done: live.done, seconds: live.seconds };
    this.change(id, { live, stored });
    if (performance.now() - this.kept < KEEP_EVERY) return;
    this.kept = performance.now();
    void this.keep(stored);
  }

  private finish(id: string, part: Partial<StoredRender>): Promise<boolean> {
    this.running = null;
    this.change(id, { live: null });
    const kept = this.put(id, part);
    const stored = this.own.get(id)?.stored;
    if (stored) {
      const view = `/piece/${stored.of}/render`;
      tellEnded({ ...stored, name: stored.piece.name, view });
    }
    this.next();
    return kept;
  }
}

/** Whether frames may be written into a folder, without being asked. */
async function mayWrite(folder: FileSystemDirectoryHandle | undefined): Promise<boolean> {
  if (!folder) return true;
  return (await permission(folder, 'queryPermission')) === 'granted';
}

/** The same, where the artist is asked if it has to be. */
async function allowed(folder: FileSystemDirectoryHandle | undefined): Promise<boolean> {
  return (await mayWrite(folder)) || (await permission(folder!, 'requestPermission')) === 'granted';
}

function permission(
  folder: FileSystemDirectoryHandle,
  ask: 'queryPermission' | 'requestPermission',
): Promise<string> {
  const known = folder as unknown as Record<typeof ask, (o: object) => Promise<string>>;
  return known[ask]({ mode: 'readwrite' }).catch(() => 'denied');
}

export const browserQueue = new BrowserQueue();

/** How a render stands, as the view of one shows it. */
export function stateOf({ stored, live }: BrowserRender): RenderState {
  const { state, done, problem, note, seconds, blob, piece, settings } = stored;
  switch (state) {
    case 'running':
      return live ?? { phase: 'waiting' };
    case 'waiting':
      return { phase: 'waiting' };
    case 'paused':
      return { phase: 'paused', done };
    case 'failed':
      return { phase: 'failed', message: problem ?? '', done };
    case 'cancelled':
      return { phase: 'cancelled', done };
    case 'done': {
      const frames = frameCount(settings);
      const job = { ...settings, piece };
      return { phase: 'done', blob: blob ?? null, note, frames, seconds, job };
    }
  }
}
