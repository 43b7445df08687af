import { z } from '../zod';
import { documentText, parseDocument, validateDocument } from '../piece/document';

export const WALL_FORMAT = 'vast-swarm wall';
export const WALL_VERSION = 1;

/** Channels of a universe that hold whole pixels of three: 170 of them (E1.31 has 512 channels). */
export const PIXELS_A_UNIVERSE = 170;
/** The last universe that there is (ANSI E1.31, 9.1.1). */
const LAST_UNIVERSE = 63_999;

const metres = z.number().min(-1000).max(1000);

/** In which order the pixels of a panel are addressed: along rows or columns, from which corner. */
const orderSchema = z.strictObject({
  along: z.enum(['rows', 'columns']),
  from: z.enum(['topLeft', 'topRight', 'bottomLeft', 'bottomRight']),
  /** Whether every other one goes back. */
  snake: z.boolean(),
});

const panelSchema = z.strictObject({
  id: z.string().min(1).max(64),
  name: z.string().min(1).max(120),
  /** The place of its middle, in metres from the left and the top of what the output covers. */
  x: metres,
  y: metres,
  /** Pixels. */
  columns: z.number().int().min(1).max(512),
  rows: z.number().int().min(1).max(512),
  /** Millimetres from one pixel to the next. */
  pitch: z.number().min(0.5).max(500),
  /** Degrees, clockwise as the audience sees it. */
  turn: z.number().min(-360).max(360),
  order: orderSchema,
});
export type Panel = z.infer<typeof panelSchema>;

/** The most pixels of a wall: 512 universes are full of as many. */
export const MOST_PIXELS = 512 * PIXELS_A_UNIVERSE;

export const wallSchema = z
  .strictObject({
    format: z.literal(WALL_FORMAT),
    version: z.literal(WALL_VERSION),
    /** Metres that the output covers. */
    width: z.number().min(0.1).max(1000),
    height: z.number().min(0.1).max(1000),
    /** The first universe; each panel begins with one of its own, in order. */
    universe: z.number().int().min(1).max(LAST_UNIVERSE),
    /** How bright the brightest is, 0 to 1. */
    level: z.number().min(0).max(1),
    /** Exponent from a level to the light of panels; 1 is for those whose light is the level itself. */
    gamma: z.number().min(0.2).max(4),
    /** Watts of one pixel that is all white, and the most that all may take together; 0 is no limit. */
    watts: z.number().min(0).max(100),
    limit: z.number().min(0).max(1e7),
    panels: z.array(panelSchema).max(200),
  })
  .superRefine((wall, context) => {
    const wrong = (message: string): void => {
      context.addIssue({ code: 'custom', path: ['panels'], message });
    };
    if (new Set(wall.panels.map((p) => p.id)).size < wall.panels.length) {
      wrong('two panels have the same id; each has one of its own');
    }
    const pixels = pixelsOf(wall);
    if (pixels > MOST_PIXELS) {
      wrong(`there are ${String(pixels)} pixels; ${String(MOST_PIXELS)} are the most`);
      // Their universes would be counted one by one.
      return;
    }
    const last = universesOf(wall).at(-1)?.universe ?? 0;
    if (last > LAST_UNIVERSE) {
      wrong(`they take universes up to ${String(last)}; ${String(LAST_UNIVERSE)} is the last`);
    }
  });
/** A wall of LED panels: its pixel map, and how bright it may be. */
export type Wall = z.infer<typeof wallSchema>;

const WALL = {
  what: 'wall',
  format: WALL_FORMAT,
  version: WALL_VERSION,
  schema: () => wallSchema,
};

/**
 * Reads a pixel map from its file.
 * @throws PieceError with every problem that was found; nothing is half read
 */
export function parseWall(text: string): Wall {
  return parseDocument(WALL, text);
}

/** Checks data that is no text any more. */
export function validateWall(data: unknown): Wall {
  return validateDocument(WALL, data);
}

export function wallText(wall: Wall): string {
  return documentText(wall);
}

export function makePanel(id: string, parts: Partial<Panel> = {}): Panel {
  return {
    id,
    name: 'Panel',
    x: 4,
    y: 2.25,
    columns: 32,
    rows: 32,
    pitch: 50,
    turn: 0,
    order: { along: 'rows', from: 'topLeft', snake: false },
    ...parts,
  };
}

export function makeWall(panels: Panel[] = []): Wall {
  return {
    format: WALL_FORMAT,
    version: WALL_VERSION,
    width: 8,
    height: 4.5,
    universe: 1,
    level: 1,
    gamma: 2.2,
    watts: 0.3,
    limit: 0,
    panels,
  };
}

/** All pixels of a wall. */
export function pixelsOf({ panels }: Pick<Wall, 'panels'>): number {
  return panels.reduce((sum, { columns, rows }) => sum + columns * rows, 0);
}

/** A universe of a wall: which of its pixels it holds, the first of them on its first three channels. */
export interface WallUniverse {
  universe: number;
  from: number;
  until: number;
}

/** Which pixels, in the order in which they are addressed, are in which universe. */
export function universesOf({
  panels,
  universe,
}: Pick<Wall, 'panels' | 'universe'>): WallUniverse[] {
  const all: WallUniverse[] = [];
  let pixel = 0;
  for (const { columns, rows } of panels) {
    const end = pixel + columns * rows;
    while (pixel < end) {
      const until = Math.min(end, pixel + PIXELS_A_UNIVERSE);
      all.push({ universe: universe + all.length, from: pixel, until });
      pixel = until;
    }
  }
  return all;
}

/** Column and row of each pixel of a panel, in the order in which they are addressed. */
export function addressed({ columns, rows, order }: Panel): [column: number, row: number][] {
  const { along, from, snake } = order;
  const inner = along === 'rows' ? columns : rows;
  const right = from === 'topRight' || from === 'bottomRight';
  const bottom = from === 'bottomLeft' || from === 'bottomRight';
  return Array.from({ length: columns * rows }, (_, n) => {
    const line = Math.floor(n / inner);
    const at = snake && line % 2 === 1 ? inner - 1 - (n % inner) : n % inner;
    const [column, row] = along === 'rows' ? [at, line] : [line, at];
    return [right ? columns - 1 - column : column, bottom ? rows - 1 - row : row];
  });
}

/** The corners of a pixel of a panel, in metres, one after the other. */
export function cornersOf(
  { x, y, columns, rows, pitch, turn }: Panel,
  column: number,
  row: number,
): [x: number, y: number][] {
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const each = pitch / 1000;
  return [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ].map(([right, down]) => {
    const u = (column + right! - columns / 2) * each;
    const v = (row + down! - rows / 2) * each;
    return [x + cos * u - sin * v, y + sin * u + cos * v];
  });
}
