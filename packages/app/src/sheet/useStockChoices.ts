import { catalogue, type StockDial } from '@vast-swarm/core/kinds';
import { freshIdIn, type Part } from '@vast-swarm/core/piece';
import { madeTitle, madeType, type StockEntry, type StockType } from '@vast-swarm/core/stock';
import { MADE } from '@vast-swarm/core/demo';
import { entryOf, firstWords, lookOf } from '../data/chosen';
import { typesOf } from '../data/stock';
import { pieceActions } from '../store/pieceSlice';
import { store, useApp, useAppDispatch } from '../store/store';
import { useStoredStock } from '../stock/useStoredStock';

const NONE: readonly Part[] = [];

export interface StockChoosing {
  spec: StockDial;
  value: string;
  path: (string | number)[];
  /** Whether it is one of the performers that is chosen, or a motion for a new one. */
  cast?: boolean;
  onChange: (value: string) => void;
}

interface Choice {
  key: string;
  title: string;
  choose: () => void;
}

/** Puts a new thing into the stock, with an id made from a word, and has the dial name it. */
type Put = (entry: Omit<StockEntry, 'id'>, base: string) => void;

/** The choices of a dial that takes a thing of the stock: those of the piece, and those that would be new in it. */
export function useStockChoices({ spec, path, cast = false, onChange }: StockChoosing): {
  accepts: readonly StockType[];
  choices: Choice[][];
  put: Put;
} {
  const dispatch = useAppDispatch();
  const entries = useApp((s) => s.piece.piece!.stock);
  const stored = useStoredStock();
  const players = useApp(({ piece: { piece } }) =>
    cast ? piece!.performers : spec.moving ? piece!.pictures : NONE,
  );
  const media = useApp(({ piece: { piece } }) => (spec.medium ? piece!.media : NONE));
  /** The type of things that are taken by a part that plays them, and not themselves. */
  const played: StockType | null = cast ? 'motion' : spec.moving ? 'clip' : null;
  const accepts: readonly StockType[] = played ? [...spec.accepts, played] : spec.accepts;
  const here = entries.filter((e) => accepts.includes(e.type));

  const take = async (entry: StockEntry): Promise<void> => {
    if (!spec.accepts.includes(entry.type)) {
      dispatch((cast ? pieceActions.cast : pieceActions.pictured)({ entry, path }));
      return;
    }
    const look = await lookOf(store.getState().piece.piece!, path, entry);
    dispatch(pieceActions.stocked({ entry, path, look }));
  };
  const put: Put = (entry, base) => {
    const id = freshIdIn(store.getState().piece.piece!, 'stock', base);
    void take({ ...entry, id });
  };
  const named = (id: string, title: string): Choice => ({
    key: `entry:${id}`,
    title,
    choose: () => {
      onChange(id);
    },
  });
  const ofPiece = [
    named('', 'None'),
    ...[...players, ...media].map((p) => named(p.id, p.name)),
    ...here.map((e): Choice => {
      const title = e.type === played ? `${e.name} (played anew)` : e.name;
      return { key: `entry:${e.id}`, title, choose: () => void take(e) };
    }),
  ];
  const known = new Set(here.flatMap((e) => ('hash' in e.source ? [e.source.hash] : [])));
  const ofBrowser = stored
    .filter((item) => !known.has(item.hash))
    .flatMap((item): Choice[] => {
      const type = typesOf(item).find((t) => accepts.includes(t));
      if (!type) return [];
      const choose = (): void => {
        put(entryOf(item, type), type);
      };
      return [{ key: `stored:${item.hash}`, title: item.name, choose }];
    });
  const movingMaps = spec.moving
    ? catalogue.pictures
        .filter((k) => k.plays === undefined)
        .map(({ kind, title }): Choice => {
          const choose = (): void => {
            dispatch(pieceActions.pictured({ kind, path }));
          };
          return { key: `map:${kind}`, title: `${title} (new)`, choose };
        })
    : [];
  return {
    accepts,
    choices: [
      ofPiece,
      [...ofBrowser, ...madeChoices(accepts, here, put), ...movingMaps, ...wordChoices(spec, put)],
    ],
    put,
  };
}

/** Things made by code that are not in the piece yet. */
function madeChoices(
  accepts: readonly StockType[],
  here: readonly StockEntry[],
  put: Put,
): Choice[] {
  const there = new Set(here.flatMap((e) => ('made' in e.source ? [e.source.made] : [])));
  return MADE.flatMap((made): Choice[] => {
    const type = madeType(made)!;
    if (!accepts.includes(type) || there.has(made)) return [];
    const choose = (): void => {
      put({ name: madeTitle(made), type, source: { made } }, made);
    };
    return [{ key: `made:${made}`, title: `${madeTitle(made)} (made by code)`, choose }];
  });
}

function wordChoices(spec: StockDial, put: Put): Choice[] {
  return (['outline', 'mesh'] as const)
    .filter((type) => spec.accepts.includes(type))
    .map((type) => ({
      key: `words:${type}`,
      title: type === 'outline' ? 'Type words, as lines' : 'Type words, as solids',
      choose: () => {
        put(firstWords(type), 'words');
      },
    }));
}
