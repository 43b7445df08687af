import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import equal from 'fast-deep-equal';
import {
  applyPatches,
  current,
  enablePatches,
  isDraft,
  produceWithPatches,
  type Patch,
} from 'immer';
import {
  begunWhole,
  dialsOf,
  firstSwarm,
  freeName,
  freshName,
  hasScore,
  isCalled,
  kindOf,
  livingForEver,
  makeChoice,
  freshIdIn,
  makePart,
  newPart,
  planeZone,
  takeKey,
  tidyControls,
  type DialValue,
  type DialValues,
  type Part,
  type PartList,
  type PartRef,
  type Piece,
  type Played,
  type StockEntry,
  type Swarm,
  type Take,
} from '@vast-swarm/core';
import type { Recorded } from '../engine/recording';
import { putForward, takeBack } from './controlEdits';
import {
  castLast,
  playEntry,
  followOther,
  followPointer,
  forget,
  freed,
  listen,
  freeFollowers,
  makeOwn,
  put,
  readersOf,
  valueAt,
  type Path,
  type Tree,
} from './pieceEdits';

enablePatches();

export type Selection =
  | {
      list: PartList;
      /** The part whose sheet is open. */
      id: string;
      /** Others of its list that are turned along with it. */
      also?: string[];
    }
  | { list: 'camera' | 'backdrop' | 'frame'; id: '' };

/** The parts that are selected. */
export function selectedParts({ selection }: PieceState): PartRef[] {
  if (!selection || !('also' in selection || selection.id)) return [];
  const { list, id, also = [] } = selection as Extract<Selection, { also?: string[] }>;
  return [id, ...also].map((one) => ({ list, id: one }));
}

/** Whether it is one of these. */
export function isSelected(state: PieceState, { list, id }: PartRef): boolean {
  return selectedParts(state).some((r) => r.list === list && r.id === id);
}

interface Step {
  label: string;
  /** Steps with the same key in a row, as while a dial is dragged, are one step to undo. */
  merge: string | null;
  patches: Patch[];
  inverse: Patch[];
}

export interface PieceState {
  id: string | null;
  piece: Piece | null;
  selection: Selection | null;
  past: Step[];
  future: Step[];
  /** The piece that was open last: opened again as it was left, it has its undo points still. */
  left: Pick<PieceState, 'id' | 'piece' | 'past' | 'future'> | null;
}

const initialState: PieceState = {
  ...{ id: null, piece: null, selection: null, past: [], future: [], left: null },
};

const MOST_STEPS = 500;

/** Changes the piece by a recipe, and remembers how to take it back. */
function edit(
  state: PieceState,
  label: string,
  recipe: (piece: Piece) => void,
  merge: string | null = null,
): void {
  const before = state.piece;
  if (!before) return;
  const changed = produceWithPatches(before, recipe);
  const plain = isDraft(changed[0]) ? current(changed[0]) : changed[0];
  const tidied = hasScore(plain) ? tidyControls(plain) : plain;
  // What controls named that is gone goes in the same step.
  const tidy = produceWithPatches(changed[0], (piece) => {
    const { controls, cues, played } = tidied;
    if (tidied !== plain) Object.assign(piece, { controls, cues, played });
  });
  const [after] = tidy;
  const patches = [...changed[1], ...tidy[1]];
  const inverse = [...tidy[2], ...changed[2]];
  if (patches.length === 0) return;
  state.piece = after;
  state.future = [];
  const last = state.past.at(-1);
  if (merge && last?.merge === merge) {
    last.patches = [...last.patches, ...patches];
    last.inverse = [...inverse, ...last.inverse];
    return;
  }
  state.past = [...state.past, { label, merge, patches, inverse }].slice(-MOST_STEPS);
}

/**
 * The same place in the other parts that are selected, where they have it: parts of the same kind, and of swarms what
 * is of the same kind in them. A name is one's own.
 */
function alongWith(state: PieceState, piece: Piece, path: Path): Path[] {
  const [first, ...others] = selectedParts(state);
  const [list, at, ...inside] = path;
  if (!first || list !== first.list || inside[0] === 'name' || inside.length === 0) return [];
  const parts = partsOf(piece, first.list);
  if (parts[at as number]?.id !== first.id) return [];
  const kindAt = (index: number): unknown => {
    const depth =
      inside[0] === 'bodies' ? 2 : inside[0] === 'emitter' || inside[0] === 'launch' ? 1 : 0;
    const owner = valueAt(piece, [list, index]) as Tree;
    return inside
      .slice(0, depth)
      .reduce<unknown>((o, key) => (o as Tree | undefined)?.[key], owner);
  };
  const kindOf = (o: unknown): unknown => (o as { kind?: string } | undefined)?.kind;
  return others
    .map(({ id }) => parts.findIndex((p) => p.id === id))
    .filter((index) => {
      const [own, other] = [kindAt(at as number), kindAt(index)];
      return index >= 0 && other !== undefined && kindOf(own) === kindOf(other);
    })
    .map((index) => [list, index, ...inside]);
}

function partsOf(piece: Piece, list: PartList): (Swarm | Part)[] {
  return piece[list];
}

function selectionThere(piece: Piece, selection: Selection | null): Selection | null {
  if (!selection || !selection.id) return selection;
  const { list, id } = selection;
  if (partsOf(piece, list as PartList).some((p) => p.id === id)) return selection;
  const [first] = piece.swarms;
  return first ? { list: 'swarms', id: first.id } : null;
}

const slice = createSlice({
  name: 'piece',
  initialState,
  reducers: {
    opened(state, { payload }: PayloadAction<{ id: string; piece: Piece }>) {
      const [first] = payload.piece.swarms;
      const selection: Selection = first
        ? { list: 'swarms', id: first.id }
        : { list: 'frame', id: '' };
      // As it is in itself: a draft is not equal to what it is a draft of.
      const { left } = current(state);
      const same = left?.id === payload.id && equal(left.piece, payload.piece);
      const steps = same ? { past: left.past, future: left.future } : {};
      return { ...initialState, ...payload, ...steps, selection };
    },
    closed: (state) => {
      const { id, piece, past, future } = state;
      // Closed once more, what was left before is still what was left.
      return id === null ? state : { ...initialState, left: { id, piece, past, future } };
    },
    selected(state, { payload }: PayloadAction<Selection>) {
      state.selection = payload;
    },
    /** Another part of the list is selected too, or no more; of another list, it alone is. */
    alsoSelected(state, { payload }: PayloadAction<PartRef>) {
      const { list, id } = payload;
      const now = selectedParts(state).filter((r) => r.list === list);
      const others = now.map((r) => r.id).filter((other) => other !== id);
      const [first, ...also] = others.length < now.length ? others : [...others, id];
      if (first !== undefined) state.selection = { list, id: first, also };
    },
    /** Sets one value of the piece. */
    set(
      state,
      { payload }: PayloadAction<{ path: Path; value: unknown; label: string; merge?: string }>,
    ) {
      const { path, value, label, merge } = payload;
      edit(
        state,
        label,
        (piece) => {
          for (const own of [path, ...alongWith(state, piece, path)]) {
            makeOwn(piece, own);
            put(piece, own, value);
          }
          const swarm =
            path[0] === 'swarms' && path[3] === 'lasts' && piece.swarms[path[1] as number];
          if (swarm && value === 'ever' && !swarm.follows) livingForEver(swarm);
        },
        merge ?? null,
      );
    },
    /** Takes dials over from another version of the piece, in one step. */
    varied(state, { payload }: PayloadAction<{ piece: Piece; label: string }>) {
      const { piece: other, label } = payload;
      edit(state, label, (piece) => {
        const now = current(piece);
        for (const { path, value } of dialsOf(other)) {
          if (!equal(valueAt(now, path), value)) put(piece, path, value);
        }
      });
    },
    /** The whole piece is another version of it. */
    replaced(state, { payload }: PayloadAction<{ piece: Piece; label: string }>) {
      edit(state, payload.label, (piece) => {
        Object.assign(piece, payload.piece);
      });
      state.selection = selectionThere(state.piece as Piece, state.selection);
    },
    /** Parts that were pasted: the piece as it is with them. */
    pasted(
      state,
      { payload }: PayloadAction<{ piece: Piece; added: readonly PartRef[]; label: string }>,
    ) {
      edit(state, payload.label, (piece) => {
        Object.assign(piece, payload.piece);
      });
      const [first, ...more] = payload.added;
      if (first) {
        state.selection = {
          ...first,
          also: more.filter((r) => r.list === first.list).map((r) => r.id),
        };
      }
    },
    /** The next change of the same dial is a step of its own. */
    settled(state) {
      const last = state.past.at(-1);
      if (last) last.merge = null;
    },
    added(state, { payload }: PayloadAction<{ list: PartList; kind: string }>) {
      const { list, kind } = payload;
      const selected = state.selection;
      edit(state, `Add ${kind}`, (piece) => {
        if (list === 'swarms') {
          const swarm = firstSwarm(kind, piece.swarms);
          castLast(piece, kindOf('emitters', kind).dials, swarm.emitter.dials);
          piece.swarms.push(swarm);
        } else {
          const part = newPart(piece, list, kind);
          if (list === 'signals') listen(piece, part, selected);
          castLast(piece, kindOf(list, kind).dials, part.dials);
          piece[list].push(part);
        }
      });
      state.selection = { list, id: state.piece![list].at(-1)!.id };
    },
    /** A zone at the edges of a force's plane. */
    edged(state, { payload: id }: PayloadAction<string>) {
      const force = state.piece?.forces.find((f) => f.id === id);
      const zone = force && planeZone(current(state).piece!, force);
      if (!zone) return;
      edit(state, `Add ${zone.name}`, (piece) => void piece.colliders.push(zone));
      state.selection = { list: 'colliders', id: zone.id };
    },
    /** The pointer stirs a medium: signals of it, where there are none yet, and dials that follow them. */
    pointed(state, { payload: id }: PayloadAction<string>) {
      edit(state, 'Stir with the pointer', (piece) => {
        followPointer(piece, id);
      });
    },
    removed(state, { payload }: PayloadAction<{ list: PartList; id: string }>) {
      const { list, id } = payload;
      edit(state, 'Remove', (piece) => {
        if (list === 'swarms') freeFollowers(piece, id);
        const parts = partsOf(piece, list);
        parts.splice(
          parts.findIndex((p) => p.id === id),
          1,
        );
        forget(piece, list, id);
      });
      state.selection = selectionThere(state.piece as Piece, state.selection);
    },
    /** @param payload.following whether the copy of a swarm goes on having what the first has */
    duplicated(
      state,
      { payload }: PayloadAction<{ list: PartList; id: string; following?: boolean }>,
    ) {
      const { list, id, following } = payload;
      let fresh = id;
      edit(state, 'Duplicate', (piece) => {
        const parts = partsOf(piece, list);
        const at = parts.findIndex((p) => p.id === id);
        const copy = structuredClone(JSON.parse(JSON.stringify(parts[at]!)) as Swarm);
        const base = id.replace(/-\d+$/, '');
        copy.id = fresh = freshIdIn(piece, list, base);
        const name = copy.name.replace(/ \d+$/, '');
        copy.name = isCalled(list) ? freeName(piece, name) : freshName(name, parts);
        if (following) {
          copy.follows = copy.follows ?? id;
          copy.own = copy.own ?? [];
        }
        parts.splice(at + 1, 0, copy);
        if (list === 'swarms' || list === 'media') {
          for (const row of Object.values(piece.influence)) {
            if (row[id] !== undefined) row[fresh] = row[id];
          }
        } else if (piece.influence[id]) piece.influence[fresh] = { ...piece.influence[id] };
      });
      state.selection = { list, id: fresh };
    },
    /** A follower has settings of its own from now on: those it had until now. */
    freed(state, { payload }: PayloadAction<string>) {
      edit(state, 'Make independent', (piece) => {
        const at = piece.swarms.findIndex((s) => s.id === payload);
        piece.swarms[at] = freed(piece, piece.swarms[at]!);
      });
    },
    /** @param payload.look dials of the swarm at `path`, as they fit to what is put there */
    stocked(
      state,
      { payload }: PayloadAction<{ entry: StockEntry; path?: Path; look?: DialValues | undefined }>,
    ) {
      const { entry, path, look } = payload;
      const change = (piece: Piece): void => {
        const at = piece.stock.findIndex((s) => s.id === entry.id);
        if (at < 0) piece.stock.push(entry);
        else piece.stock[at] = entry;
        if (!path) return;
        makeOwn(piece, path);
        put(piece, path, entry.id);
        if (look) Object.assign(piece.swarms[path[1] as number]!.dials, look);
      };
      // What is typed or dragged is one step until it is settled.
      if (path) edit(state, `Add ${entry.name}`, change);
      else edit(state, `Change ${entry.name}`, change, `stock ${entry.id}`);
    },
    /** A swarm that is born from a thing of the stock, which comes with it. */
    bornFrom(state, { payload }: PayloadAction<{ entry: StockEntry; swarm: Swarm }>) {
      const { entry, swarm } = payload;
      edit(state, `Add ${entry.name}`, (piece) => {
        if (entry.type === 'clip' || entry.type === 'motion') {
          const playing = playEntry(piece, entry);
          const dials = Object.entries(swarm.emitter.dials);
          const [key] = dials.find(([, value]) => value === entry.id)!;
          piece.swarms.push({
            ...swarm,
            emitter: { ...swarm.emitter, dials: { ...swarm.emitter.dials, [key]: playing } },
          });
          return;
        }
        piece.stock.push(entry);
        piece.swarms.push(swarm);
      });
      state.selection = { list: 'swarms', id: swarm.id };
    },
    /** A moving picture for a dial: a made map of a kind, or one that plays a clip of the stock, which comes with it. */
    pictured(
      state,
      { payload }: PayloadAction<{ path?: Path } & ({ kind: string } | { entry: StockEntry })>,
    ) {
      let fresh = '';
      edit(state, 'Add a moving picture', (piece) => {
        fresh = 'entry' in payload ? playEntry(piece, payload.entry) : '';
        if ('kind' in payload) {
          const part = newPart(piece, 'pictures', payload.kind);
          piece.pictures.push(part);
          fresh = part.id;
        }
        if (!payload.path) return;
        makeOwn(piece, payload.path);
        put(piece, payload.path, fresh);
      });
      if (!payload.path) state.selection = { list: 'pictures', id: fresh };
    },
    /** A performer for a dial, of a motion of the stock, which comes with them. */
    cast(state, { payload: { entry, path } }: PayloadAction<{ entry: StockEntry; path: Path }>) {
      edit(state, 'Add a performer', (piece) => {
        const fresh = playEntry(piece, entry);
        makeOwn(piece, path);
        put(piece, path, fresh);
      });
    },
    /** All that reads the joints of a performer reads those of another from now on. */
    recast(state, { payload }: PayloadAction<{ from: string; to: string }>) {
      const { from, to } = payload;
      edit(state, 'Take over', (piece) => {
        for (const path of readersOf(piece, from)) put(piece, path, to);
      });
    },
    /** A sound from a thing of the stock, which comes with it. */
    heard(state, { payload: entry }: PayloadAction<StockEntry>) {
      edit(state, `Add ${entry.name}`, (piece) => {
        const part = newPart(piece, 'sounds', 'played');
        part.name = freshName(entry.name, piece.sounds);
        part.dials.sound = entry.id;
        piece.stock.push(entry);
        piece.sounds.push(part);
      });
      state.selection = { list: 'sounds', id: state.piece!.sounds.at(-1)!.id };
    },
    /** Fills a dial from a signal that is made for it. */
    signalled(state, { payload }: PayloadAction<{ path: Path; from: number; to: number }>) {
      const { path, from, to } = payload;
      edit(state, 'Drive by a wave', (piece) => {
        const part = newPart(piece, 'signals', 'wave');
        piece.signals.push(part);
        makeOwn(piece, path);
        put(piece, path, { feed: 'signal', signal: part.id, from, to } satisfies DialValue);
      });
    },
    /** Dials that a signal feeds follow another one, or a part of one, from now on. */
    swapped(
      state,
      { payload }: PayloadAction<{ paths: Path[]; signal: string; other: string; name: string }>,
    ) {
      const { paths, signal, other, name } = payload;
      edit(state, `Follow ${name}`, (piece) => {
        followOther(piece, paths, signal, other);
      });
    },
    /** Keeps what was recorded of a signal that was moved by hand. */
    took(state, { payload }: PayloadAction<{ signal: string; take: Take }>) {
      const { signal, take } = payload;
      edit(state, 'Record', (piece) => {
        const part = piece.signals.find((s) => s.id === signal);
        const key = part && takeKey(part);
        if (key) part.dials[key] = take;
      });
    },
    /** Keeps what was played of controls and cues. */
    played(state, { payload }: PayloadAction<Played[]>) {
      edit(state, 'Play', (piece) => {
        piece.played = payload;
      });
    },
    /** Puts a dial, or the switch of a part, forward: under a control of its own, or one that there is. */
    putForward(state, { payload }: PayloadAction<{ path: Path; control?: string }>) {
      const { path, control } = payload;
      const before = state.piece?.controls.length ?? 0;
      edit(state, 'Put forward', (piece) => {
        makeOwn(piece, path);
        putForward(piece, path, control);
      });
      const fresh = state.piece?.controls[before];
      if (fresh) state.selection = { list: 'controls', id: fresh.id };
    },
    /** A dial that a control holds is as it is itself again. */
    takenBack(state, { payload: place }: PayloadAction<string>) {
      edit(state, 'Take back', (piece) => {
        takeBack(piece, place);
      });
    },
    /** A take of a live input, which counts from now on. */
    recorded(
      state,
      {
        payload,
      }: PayloadAction<{
        list: Recorded;
        id: string;
        entry: StockEntry;
        start: number;
      }>,
    ) {
      const { list, id, entry, start } = payload;
      edit(state, 'Record', (piece) => {
        const part = piece[list].find((s) => s.id === id);
        const records = part && kindOf(list, part.kind).records;
        piece.stock.push(entry);
        if (records)
          Object.assign(part.dials, { [records.take]: entry.id, [records.start]: start });
      });
    },
    moved(state, { payload }: PayloadAction<{ list: PartList; from: number; to: number }>) {
      const { list, from, to } = payload;
      edit(state, 'Reorder', (piece) => {
        const parts = partsOf(piece, list);
        const [part] = parts.splice(from, 1);
        if (part) parts.splice(to, 0, part);
      });
    },
    /** Another kind in the same place, with its own default dials. */
    kindChanged(
      state,
      {
        payload,
      }: PayloadAction<{ path: Path; shelf: Parameters<typeof makeChoice>[0]; kind: string }>,
    ) {
      const { path, shelf, kind } = payload;
      edit(state, 'Change kind', (piece) => {
        makeOwn(piece, path);
        const holder = valueAt(piece, path) as Tree;
        const fresh = makeChoice(shelf, kind);
        castLast(piece, kindOf(shelf, kind).dials, fresh.dials);
        const before = holder.dials as Record<string, unknown>;
        // What both kinds have, as the centre, stays.
        for (const key of Object.keys(fresh.dials)) {
          if (key in before && typeof before[key] === typeof fresh.dials[key]) {
            fresh.dials[key] = before[key] as (typeof fresh.dials)[string];
          }
        }
        Object.assign(holder, fresh);
        const swarm = shelf === 'emitters' ? piece.swarms[path[1] as number]! : null;
        if (swarm && !swarm.follows) begunWhole(swarm);
        // A part of a list, as a body, is called by what it is.
        const among = valueAt(piece, path.slice(0, -1));
        if (!Array.isArray(among)) return;
        const { id, name } = makePart(
          shelf,
          kind,
          (among as Part[]).filter((p) => (p as unknown) !== holder),
        );
        Object.assign(holder, { id, name });
      });
    },
    /** Shown alone: all others of the list off; again: all on. */
    alone(state, { payload }: PayloadAction<{ list: PartList; id: string }>) {
      edit(state, 'Show alone', (piece) => {
        const parts = partsOf(piece, payload.list);
        const already = parts.every((p) => p.on === (p.id === payload.id));
        for (const p of parts) p.on = already || p.id === payload.id;
      });
    },
    /** As another tab has made it. */
    followed(state, { payload }: PayloadAction<Piece>) {
      const recipe = (piece: Piece): void => {
        // What is the same stays the same thing: nothing is made anew for it.
        const before = isDraft(piece) ? current(piece) : piece;
        for (const key of Object.keys(payload) as (keyof Piece)[]) {
          if (!equal(before[key], payload[key])) Object.assign(piece, { [key]: payload[key] });
        }
      };
      edit(state, 'Change in another tab', recipe, 'elsewhere');
      if (state.piece) state.selection = selectionThere(state.piece, state.selection);
    },
    undone(state) {
      const step = state.past.at(-1);
      if (!step || !state.piece) return;
      state.piece = applyPatches(state.piece, step.inverse);
      state.past = state.past.slice(0, -1);
      state.future = [...state.future, { ...step, merge: null }];
      state.selection = selectionThere(state.piece, state.selection);
    },
    redone(state) {
      const step = state.future.at(-1);
      if (!step || !state.piece) return;
      state.piece = applyPatches(state.piece, step.patches);
      state.future = state.future.slice(0, -1);
      state.past = [...state.past, step];
      state.selection = selectionThere(state.piece, state.selection);
    },
  },
});

export const pieceActions = slice.actions;
export const pieceReducer = slice.reducer;
