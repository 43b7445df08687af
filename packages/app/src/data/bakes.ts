import type { EngineClient } from '../engine/client';
import type { BakeFile, EngineEvent } from '../engine/messages';
import { bakeActions } from '../store/bakeSlice';
import { noticed } from '../store/noticeSlice';
import { store } from '../store/store';
import { library, type StoredBake } from './db';

const idOf = (piece: string, swarm: string): string => `${piece}/${swarm}`;

async function bakesOf(piece: string): Promise<StoredBake[]> {
  return library.bakes.where('id').startsWith(`${piece}/`).toArray();
}

function swarmOf({ id }: StoredBake): string {
  return id.slice(id.indexOf('/') + 1);
}

let open: { piece: string; engine: EngineClient } | null = null;

/** Tells engine and interface what is baked of a piece. */
export async function loadBakes(piece: string, engine: EngineClient): Promise<void> {
  open = { piece, engine };
  const bakes = await bakesOf(piece).catch(() => []);
  store.dispatch(
    bakeActions.bakesLoaded(
      Object.fromEntries(
        bakes.map((b) => [swarmOf(b), { key: b.key, bytes: b.bytes, made: b.made }]),
      ),
    ),
  );
  engine.setBakes(bakes.map((b): BakeFile => ({ ...b, swarm: swarmOf(b) })));
}

/** Begins to store the motion of a swarm; an older bake is kept until the new one is whole. */
export function makeBake(engine: EngineClient, swarm: string): void {
  store.dispatch(bakeActions.making({ swarm, done: 0, total: 1 }));
  engine.bake(swarm, `${open!.piece}.${swarm}.${String(Date.now())}`);
}

/** The engine, which holds the file, removes it when the bake is no longer among those it is told. */
export async function removeBake(engine: EngineClient, swarm: string): Promise<void> {
  const { piece } = open!;
  await library.bakes.delete(idOf(piece, swarm));
  await loadBakes(piece, engine);
}

/** Takes in a message of the engine on a bake. */
export async function bakeMessage(
  piece: string,
  message: EngineEvent & { type: 'baking' | 'baked' | 'bakeStopped' },
): Promise<void> {
  const { swarm } = message;
  if (message.type === 'baking') {
    if (store.getState().bakes.making) {
      store.dispatch(bakeActions.making({ swarm, done: message.done, total: message.total }));
    }
    return;
  }
  if (message.type === 'bakeStopped') {
    // What was there before is played again.
    if (open) await loadBakes(piece, open.engine);
    if (message.message) {
      store.dispatch(noticed({ key: 'bake', kind: 'wrong', message: message.message }));
    }
    return;
  }
  const { bake, bytes, key } = message;
  const { file, first, last, capacity, state, born } = bake;
  const id = idOf(piece, swarm);
  const made = Date.now();
  await library.bakes.put({ id, key, file, first, last, capacity, state, born, bytes, made });
  const { bakes } = store.getState().bakes;
  store.dispatch(bakeActions.bakesLoaded({ ...bakes, [swarm]: { key, bytes, made } }));
}
