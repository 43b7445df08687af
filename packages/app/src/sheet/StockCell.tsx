import { Box, Button, Divider, MenuItem, Select, Stack } from '@mui/material';
import { useRef } from 'react';
import { catalogue, type StockDial } from '@vast-swarm/core/kinds';
import { freshIdIn, type Part } from '@vast-swarm/core/piece';
import {
  madeType,
  madeTitle,
  standsInSpace,
  type StockEntry,
  type StockType,
} from '@vast-swarm/core/stock';
import { MADE } from '@vast-swarm/core/demo';
import { entryOf, firstWords, lookOf } from '../data/chosen';
import { areFrames, framesFile } from '../data/frames';
import { importStock, STOCK_ACCEPT, typesOf } from '../data/stock';
import { noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store, useApp, useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import type { StoredStock } from '../data/db';
import { useStoredStock } from '../stock/useStoredStock';
import { NumberField } from '../fields/NumberField';
import { WordsBox } from './WordsBox';
import { FileChooser } from '../ui/FileChooser';

const NONE: readonly Part[] = [];

interface Props {
  spec: StockDial;
  value: string;
  path: (string | number)[];
  /** Whether it is one of the performers that is chosen, or a motion for a new one. */
  cast?: boolean;
  onChange: (value: string) => void;
}

/** A thing of the stock: of this piece, of the browser, made by code, drawn, or from a file. */
export function StockCell({ spec, value, path, cast = false, onChange }: Props) {
  const dispatch = useAppDispatch();
  const entries = useApp((s) => s.piece.piece!.stock);
  const tool = useApp((s) => s.tools.tool);
  const chooser = useRef<HTMLInputElement>(null);
  const stored = useStoredStock();
  const players = useApp(({ piece: { piece } }) =>
    cast ? piece!.performers : spec.moving ? piece!.pictures : NONE,
  );
  const media = useApp(({ piece: { piece } }) => (spec.medium ? piece!.media : NONE));
  /** The type of things that are taken by a part that plays them, and not themselves. */
  const played: StockType | null = cast ? 'motion' : spec.moving ? 'clip' : null;
  const accepts: readonly StockType[] = played ? [...spec.accepts, played] : spec.accepts;
  const here = entries.filter((e) => accepts.includes(e.type));
  const known = new Set(here.flatMap((e) => ('hash' in e.source ? [e.source.hash] : [])));
  const fits = (item: StoredStock): StockType | undefined =>
    typesOf(item).find((type) => accepts.includes(type));
  const elsewhere = stored.filter((s) => fits(s) && !known.has(s.hash));
  const usedMade = new Set(here.flatMap((e) => ('made' in e.source ? [e.source.made] : [])));
  const makeable = MADE.filter((m) => accepts.includes(madeType(m)!) && !usedMade.has(m));
  const chosen = entries.find((e) => e.id === value);
  const drawing = tool?.kind === 'pen' && tool.path.join('.') === path.join('.');

  const add = (entry: Omit<StockEntry, 'id'>, base: string): void => {
    const id = freshIdIn(store.getState().piece.piece!, 'stock', base);
    void put({ ...entry, id });
  };
  const put = async (entry: StockEntry): Promise<void> => {
    if (!spec.accepts.includes(entry.type)) {
      dispatch((cast ? pieceActions.cast : pieceActions.pictured)({ entry, path }));
      return;
    }
    const look = await lookOf(store.getState().piece.piece!, path, entry);
    dispatch(pieceActions.stocked({ entry, path, look }));
  };
  const choose = (choice: string): void => {
    const [kind, name] = choice.split(':') as [string, string];
    if (kind === 'made') {
      const source = { made: name };
      add({ name: madeTitle(name), type: madeType(name)!, source }, name);
    } else if (kind === 'stored') {
      const item = stored.find((s) => s.hash === name)!;
      add(entryOf(item, fits(item)), fits(item)!);
    } else if (kind === 'file') chooser.current!.click();
    else if (kind === 'map') dispatch(pieceActions.pictured({ kind: name, path }));
    else if (kind === 'words') add(firstWords(name as 'outline' | 'mesh'), 'words');
    else if (kind === 'pen') dispatch(toolActions.toolChosen({ kind: 'pen', path }));
    else {
      const entry = entries.find((e) => e.id === name);
      if (entry) void put(entry);
      else onChange(name);
    }
  };
  const take = async (files: readonly [File, ...File[]]): Promise<void> => {
    try {
      // Several pictures at once are the frames of a clip.
      const file = areFrames(files) ? await framesFile(files) : files[0];
      const item = await importStock(file);
      const type = fits(item);
      if (!type) {
        const message = `${file.name} is a ${item.type} and is in the stock now; this dial wants a ${spec.accepts.join(' or ')}.`;
        dispatch(noticed({ key: 'stock', kind: 'note', message }));
        return;
      }
      add(entryOf(item, type), type);
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      dispatch(noticed({ key: 'stock', kind: 'wrong', message }));
    }
  };
  return (
    <Box>
      <Select
        variant="standard"
        disableUnderline
        displayEmpty
        value={value ? `entry:${value}` : 'entry:'}
        onChange={(e) => {
          choose(e.target.value);
        }}
        inputProps={{ 'aria-label': spec.title }}
        sx={{ fontSize: 13, maxWidth: 220, '& .MuiSelect-select': { py: '1px' } }}
      >
        <MenuItem value="entry:">None</MenuItem>
        {[...players, ...media].map((p) => (
          <MenuItem key={`player ${p.id}`} value={`entry:${p.id}`}>
            {p.name}
          </MenuItem>
        ))}
        {here.map((e) => (
          <MenuItem key={e.id} value={`entry:${e.id}`}>
            {e.name}
            {e.type === played ? ' (played anew)' : ''}
          </MenuItem>
        ))}
        <Divider />
        {elsewhere.map((s) => (
          <MenuItem key={s.hash} value={`stored:${s.hash}`}>
            {s.name}
          </MenuItem>
        ))}
        {makeable.map((m) => (
          <MenuItem key={m} value={`made:${m}`}>
            {madeTitle(m)} (made by code)
          </MenuItem>
        ))}
        {spec.moving &&
          catalogue.pictures
            .filter((k) => k.plays === undefined)
            .map((k) => (
              <MenuItem key={k.kind} value={`map:${k.kind}`}>
                {k.title} (new)
              </MenuItem>
            ))}
        {spec.accepts.includes('outline') && <MenuItem value="pen:">Draw with the pen</MenuItem>}
        {(['outline', 'mesh'] as const)
          .filter((type) => spec.accepts.includes(type))
          .map((type) => (
            <MenuItem key={type} value={`words:${type}`}>
              {type === 'outline' ? 'Type words, as lines' : 'Type words, as solids'}
            </MenuItem>
          ))}
        <MenuItem value="file:">From a file…</MenuItem>
      </Select>
      {!value && !drawing && spec.group === 'Dials' && (
        <Button
          variant="outlined"
          size="small"
          aria-label={`Take ${spec.title} from a file`}
          onClick={() => chooser.current!.click()}
          sx={{ ml: 1, py: 0, fontSize: 12 }}
        >
          File…
        </Button>
      )}
      {drawing && (
        <Button variant="contained" onClick={() => dispatch(toolActions.toolChosen(null))}>
          Put the pen away
        </Button>
      )}
      {chosen && 'words' in chosen.source && <WordsBox entry={chosen} source={chosen.source} />}
      {chosen && 'hash' in chosen.source && standsInSpace(chosen.type) && (
        <Fitting entry={chosen} source={chosen.source} />
      )}
      <FileChooser
        ref={chooser}
        label={`File for ${spec.title}`}
        accept={STOCK_ACCEPT}
        multiple={accepts.includes('clip')}
        onChoose={(files) => {
          void take(files);
        }}
      />
    </Box>
  );
}

type FileSource = Extract<StockEntry['source'], { hash: string }>;

const METRES = { min: 1e-4, max: 1e4, unit: 'm', drag: 'log' as const };
const UNIT = { min: 1e-6, max: 1e6, unit: 'm a unit', drag: 'log' as const };

/** How the measure of a file becomes that of the piece: which way is up, and how large. */
function Fitting({ entry, source }: { entry: StockEntry; source: FileSource }) {
  const dispatch = useAppDispatch();
  const put = (part: Partial<FileSource>): void => {
    // What is undefined has no place in the file.
    const plain = JSON.parse(JSON.stringify({ ...source, ...part })) as FileSource;
    dispatch(pieceActions.stocked({ entry: { ...entry, source: plain } }));
  };
  const bySize = source.size !== undefined;
  return (
    <Stack direction="row" sx={{ alignItems: 'baseline', gap: 1 }}>
      <Select
        variant="standard"
        disableUnderline
        value={source.up ?? 'y'}
        onChange={(e) => {
          put({ up: e.target.value === 'z' ? 'z' : undefined });
        }}
        inputProps={{ 'aria-label': `Which way is up in ${entry.name}` }}
        sx={{ fontSize: 12 }}
      >
        <MenuItem value="y">y is up</MenuItem>
        <MenuItem value="z">z is up</MenuItem>
      </Select>
      <Select
        variant="standard"
        disableUnderline
        value={bySize ? 'size' : 'unit'}
        onChange={(e) => {
          put(
            e.target.value === 'size'
              ? { size: 2, unit: undefined }
              : { size: undefined, unit: undefined },
          );
        }}
        inputProps={{ 'aria-label': `How ${entry.name} is measured` }}
        sx={{ fontSize: 12 }}
      >
        <MenuItem value="size">brought to a size</MenuItem>
        <MenuItem value="unit">in its own units</MenuItem>
      </Select>
      <NumberField
        label={bySize ? `Longest side of ${entry.name}` : `Unit of ${entry.name}`}
        value={bySize ? source.size! : (source.unit ?? 1)}
        spec={bySize ? METRES : UNIT}
        rate={30}
        onChange={(v) => {
          put(bySize ? { size: v } : { unit: v });
        }}
        onSettle={() => dispatch(pieceActions.settled())}
      />
    </Stack>
  );
}
