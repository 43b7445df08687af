import { z } from '../zod';
import { catalogue, catalogueVersion, type Shelf } from '../sections';
import { SECTIONS } from '../sections/lists';
import type { Section } from '../sections/section';
import { CHANCES } from '../language/particle';
import { rateSchema } from './rate';
import { dialsSchema } from '../language/dials';
import { swarmDials } from '../sections/swarms/swarmDials';
import { stockEntrySchema } from '../stock/entry';
import { idSchema as id } from '../stock/id';
import { playedSchema } from './played';
import { referenceProblems } from './references';
import { FORMAT, VERSION, type Choice, type Part, type Piece, type Swarm } from './types';

/**
 * The piece file is JSON of this schema. Dials that are left out take their defaults, and lists that are left out are
 * empty; everything else has to be there.
 */

const name = z.string().min(1).max(120);

function choiceOf(shelf: Shelf): z.ZodType<Choice> {
  const options = catalogue[shelf].map((k) =>
    z.strictObject({ kind: z.literal(k.kind), dials: dialsSchema(k.dials) }),
  );
  return union(options);
}

function partOf(shelf: Shelf): z.ZodType<Part> {
  const options = catalogue[shelf].map((k) =>
    z.strictObject({
      id,
      name,
      on: z.boolean(),
      kind: z.literal(k.kind),
      dials: dialsSchema(k.dials),
    }),
  );
  return union(options);
}

function union<T>(options: z.ZodObject[]): z.ZodType<T> {
  return z.discriminatedUnion(
    'kind',
    options as unknown as [z.ZodObject],
  ) as unknown as z.ZodType<T>;
}

/** So many at the most; none where nothing is said. */
function list<T extends z.ZodType>(of: T, most: number) {
  return z.array(of).max(most).prefault([]);
}

const triple = (limit: number) => {
  const part = z.number().min(-limit).max(limit);
  return z.tuple([part, part, part]);
};

const copiesSchema = z.strictObject({
  count: z.number().int().min(1).max(1000),
  /** Metres. */
  offset: triple(1000),
  /** Degrees about x, then y, then z. */
  turn: triple(3600),
  scale: z.number().min(0.01).max(10),
  runsOn: z.enum(['along', 'around']).optional(),
  differ: z
    .strictObject({
      in: z.array(z.enum(CHANCES)).min(1).max(CHANCES.length),
      seed: z.number().int().min(0).max(2147483647),
    })
    .optional(),
});

const frame = z.strictObject({
  width: z.number().int().min(16).max(16384),
  height: z.number().int().min(16).max(16384),
  rate: rateSchema,
  length: z.number().int().min(1).max(200_000),
  preroll: z.number().int().min(0).max(20_000),
  loop: z.boolean().default(false),
});

function swarmSchema(): z.ZodType<Swarm> {
  const swarm = z.strictObject({
    id,
    name,
    on: z.boolean(),
    emitter: choiceOf('emitters'),
    launch: choiceOf('launches'),
    bodies: list(partOf('bodies'), 8),
    dials: dialsSchema(swarmDials),
    copies: list(copiesSchema, 4),
    follows: id.optional(),
    own: z.array(z.string().max(64)).max(64).optional(),
  });
  return swarm as unknown as z.ZodType<Swarm>;
}

/** The lists of sections that stand at a place of the file. */
function listsAt(place: Section['place']): Record<string, z.ZodType> {
  const here = SECTIONS.filter((s) => s.place === place);
  return Object.fromEntries(
    here.map((s) => [
      s.list,
      list(s.list === 'swarms' ? swarmSchema() : partOf(s.list as Shelf), s.most),
    ]),
  );
}

function build(): z.ZodType<Piece> {
  const piece = z
    .strictObject({
      format: z.literal(FORMAT),
      version: z.literal(VERSION),
      name,
      seed: z.number().int().min(0).max(2147483647),
      frame,
      backdrop: choiceOf('backdrops'),
      camera: choiceOf('cameras'),
      ...listsAt('scene'),
      density: z.number().min(0.01).max(100),
      ...listsAt('world'),
      stock: list(stockEntrySchema, 256),
      influence: z.record(id, z.record(id, z.number().min(-100).max(100))).prefault({}),
      ...listsAt('end'),
      played: playedSchema.prefault([]),
    })
    .superRefine((read, context) => {
      for (const { path, message } of referenceProblems(read as unknown as Piece)) {
        context.addIssue({ code: 'custom', path, message });
      }
    });
  return piece as unknown as z.ZodType<Piece>;
}

let built: { version: number; schema: z.ZodType<Piece> } | null = null;

/** The schema of the piece file, of all kinds that there are. */
export function pieceSchema(): z.ZodType<Piece> {
  const version = catalogueVersion();
  if (built?.version !== version) built = { version, schema: build() };
  return built.schema;
}

/** The schema as JSON Schema (draft 2020-12), for other programs. */
export function pieceJsonSchema(): unknown {
  return z.toJSONSchema(pieceSchema(), { io: 'input', unrepresentable: 'any', reused: 'ref' });
}
