import { createSlice, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import { VARIED, type Piece, type Varied } from '@vast-swarm/core/piece';
import type { Notice } from '@vast-swarm/core/plan';

type Path = (string | number)[];

/** The neighbours of the piece that are shown, and what is turned in them. */
export interface Varying {
  /** The number of the first of the nine. */
  first: number;
  reach: number;
  groups: readonly Varied[];
  /** Whether only the selected part is turned. */
  only: boolean;
  /** Numbers of those that are to be crossed, two at the most. */
  marked: readonly number[];
  /** The two that are crossed. */
  parents: readonly [number, number] | null;
}

/** The pointer's tool in the picture, beside moving the camera. */
export interface ToolState {
  /** The pen draws an outline for a dial; the flow brush lays strokes into one; masks are shapes. */
  tool: { kind: 'pen' | 'brush' | 'mask'; path: Path } | null;
  brush: { radius: number; strength: number };
  /** Whether the piece plays. */
  playing: boolean;
  /** Outlines and handles of the selected part. */
  handles: boolean;
  /** Whether a particle's readings are shown. */
  following: boolean;
  /** Loudness of pieces, 0 to 1, whether they are heard at all, and the device; '' is the usual one. */
  heard: { level: number; silent: boolean; device: string };
  /** Titles of groups in the sheet that are folded away, in whatever part. */
  folded: readonly string[];
  /** Whether the sheet shows only dials that were changed. */
  changedOnly: boolean;
  /** The place of a dial that was looked for, and is lit. */
  lit: string | null;
  /** The thing that is being made ready and takes long, and the part of it that is done, 0 to 1. */
  building: { name: string; part: number } | null;
  /** Notices of the engine on the piece, with numbers. */
  notices: readonly Notice[];
  varying: Varying | null;
  /** The step of the walk through a first piece that is to be done; null where nobody is on it. */
  walk: number | null;
  /** Names of places that variations leave as they are. */
  locked: readonly string[];
  /** The piece that the picture shows instead of the open one, as long as it is looked at. */
  trial: Piece | null;
}

const KEY = 'vast-swarm.heard';
const FOLDED = 'vast-swarm.folded';

/** Groups that were folded away in this browser the last time. */
function storedFolded(): string[] {
  const text = typeof localStorage === 'undefined' ? null : localStorage.getItem(FOLDED);
  try {
    const titles = JSON.parse(text ?? '[]') as unknown;
    return Array.isArray(titles) ? titles.filter((t) => typeof t === 'string') : [];
  } catch {
    return [];
  }
}

/** Keeps which groups are folded for the next time. */
export function keepFolded(folded: readonly string[]): void {
  localStorage.setItem(FOLDED, JSON.stringify(folded));
}

/** How loud it was in this browser the last time. */
function storedHeard(): Partial<ToolState['heard']> {
  const text = typeof localStorage === 'undefined' ? null : localStorage.getItem(KEY);
  try {
    const { level, device } = JSON.parse(text ?? '{}') as Record<string, unknown>;
    return {
      ...(typeof level === 'number' && level >= 0 && level <= 1 ? { level } : {}),
      ...(typeof device === 'string' ? { device } : {}),
    };
  } catch {
    return {};
  }
}

/** Keeps how loud it is for the next time. */
export function keepHeard({ level, device }: ToolState['heard']): void {
  localStorage.setItem(KEY, JSON.stringify({ level, device }));
}

const initialState: ToolState = {
  tool: null,
  brush: { radius: 0.12, strength: 1 },
  playing: true,
  handles: true,
  following: false,
  heard: { level: 1, silent: false, device: '', ...storedHeard() },
  folded: storedFolded(),
  changedOnly: false,
  lit: null,
  building: null,
  notices: [],
  varying: null,
  walk: null,
  locked: [],
  trial: null,
};

function firstNine(): Draft<Varying> {
  const groups = Object.keys(VARIED) as Varied[];
  return { first: 1, reach: 0.35, groups, only: false, marked: [], parents: null };
}

const slice = createSlice({
  name: 'tools',
  initialState,
  reducers: {
    toolChosen(state, { payload }: PayloadAction<ToolState['tool']>) {
      state.tool = payload;
    },
    brushSet(state, { payload }: PayloadAction<Partial<ToolState['brush']>>) {
      Object.assign(state.brush, payload);
    },
    playSet(state, { payload }: PayloadAction<boolean>) {
      state.playing = payload;
    },
    handlesToggled(state) {
      state.handles = !state.handles;
    },
    followingSet(state, { payload }: PayloadAction<boolean>) {
      state.following = payload;
    },
    heardSet(state, { payload }: PayloadAction<Partial<ToolState['heard']>>) {
      Object.assign(state.heard, payload);
    },
    buildingTold(state, { payload }: PayloadAction<ToolState['building']>) {
      state.building = payload;
    },
    noticesTold(state, { payload }: PayloadAction<ToolState['notices']>) {
      state.notices = [...payload];
    },
    /** Opens or closes the strip of variations. */
    varied(state, { payload }: PayloadAction<boolean>) {
      state.varying = payload ? firstNine() : null;
      state.trial = null;
    },
    varyingSet(state, { payload }: PayloadAction<Partial<Varying>>) {
      if (state.varying) Object.assign(state.varying, payload);
    },
    /** A third one takes the place of the first. */
    variationMarked(state, { payload }: PayloadAction<number>) {
      const { varying } = state;
      if (!varying) return;
      const others = varying.marked.filter((n) => n !== payload);
      const fewer = others.length < varying.marked.length;
      varying.marked = fewer ? others : [...others.slice(-1), payload];
    },
    walkSet(state, { payload }: PayloadAction<number | null>) {
      state.walk = payload;
    },
    trialSet(state, { payload }: PayloadAction<Piece | null>) {
      state.trial = payload;
    },
    lockTurned(state, { payload }: PayloadAction<string>) {
      const others = state.locked.filter((address) => address !== payload);
      state.locked = others.length < state.locked.length ? others : [...others, payload];
    },
    groupFolded(state, { payload }: PayloadAction<string>) {
      const others = state.folded.filter((title) => title !== payload);
      state.folded = others.length < state.folded.length ? others : [...others, payload];
    },
    changedOnlySet(state, { payload }: PayloadAction<boolean>) {
      state.changedOnly = payload;
    },
    /** Lights a dial; the group that it stands in is unfolded. */
    dialLit(state, { payload }: PayloadAction<{ path: string; group: string } | null>) {
      state.lit = payload?.path ?? null;
      if (!payload) return;
      state.changedOnly = false;
      state.folded = state.folded.filter((t) => t !== payload.group && t !== 'Bodies');
    },
    toolsReset: ({ folded, heard }) => ({ ...initialState, folded, heard }),
  },
});

export const toolActions = slice.actions;
export const toolReducer = slice.reducer;
