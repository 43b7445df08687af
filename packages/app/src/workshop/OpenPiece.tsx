import { Box } from '@mui/material';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { RecordedList } from '@vast-swarm/core/kinds';
import { fileNamed } from '@vast-swarm/core/stock';
import type { Piece } from '@vast-swarm/core/piece';
import { bakeMessage, loadBakes } from '../data/bakes';
import { saveThumb } from '../data/pieces';
import { History, keepSnapshot } from '../data/snapshots';
import { filesOf } from '../data/stock';
import { EngineClient, type EngineEvents } from '../engine/client';
import { EngineContext, useEngine } from '../engine/EngineContext';
import type { EngineChoice, PreviewChoice } from '../engine/messages';
import { noticed } from '../store/noticeSlice';
import { store, useApp } from '../store/store';
import { pieceActions } from '../store/pieceSlice';
import { toolActions } from '../store/toolSlice';
import { COLOURS } from '../ui/theme';
import { Bar } from './Bar';
import { useBoundKeys } from '../controls/useBoundKeys';
import { BottomTabs } from './BottomTabs';
import { LineUp } from '../lineUp/LineUp';
import { Picture } from '../picture/Picture';
import { Sheet } from '../sheet/Sheet';
import { PictureNotices } from '../picture/PictureNotices';
import { SheetDivider } from '../sheet/SheetDivider';
import { OutsideContext, useOutsideOf } from '../control/OutsideContext';
import { INPUT_LISTS, keepTaken, openInputs, type LiveInputs } from '../inputs';
import { LiveContext, useMicrophone, useRecording } from '../inputs/LiveContext';
import { useClipboard } from '../recipes/useClipboard';
import { useSoundOutput } from '../sound/useSoundOutput';
import { Walk } from '../walk/Walk';
import { useShortcuts } from './useShortcuts';

/** Milliseconds between pictures for the list of pieces. */
const THUMB_EVERY = 8000;
/** Milliseconds between looks whether a version is to be kept. */
const HISTORY_EVERY = 20_000;

function engineChoice(text: string | null): EngineChoice {
  return text === 'cpu' || text === 'gpu' ? text : 'auto';
}

/** Events of the engine, as the interface shows them. */
function eventsOf(id: string, inputs: LiveInputs, died: () => void): Partial<EngineEvents> {
  const { dispatch } = store;
  return {
    notices: (notices) => {
      dispatch(toolActions.noticesTold(notices));
    },
    trouble: (message) => {
      dispatch(noticed({ key: 'engine', kind: 'wrong', message }));
    },
    building: (name, part) => {
      dispatch(toolActions.buildingTold(part < 1 ? { name, part } : null));
    },
    took: (signal, take) => dispatch(pieceActions.took({ signal, take })),
    baking: (message) => void bakeMessage(id, message),
    taken: (taken) => {
      keepTaken(id, taken, inputs);
    },
    played: (played) => dispatch(pieceActions.played(played)),
    died,
  };
}

/** Tells the engine of every change of the piece, and of the files that its stock names. */
function feedEngine(engine: EngineClient): () => void {
  let stock: Piece['stock'] | null = null;
  let shown: Piece | null = null;
  let waiting: Promise<void> | null = null;
  // Letters that are typed are laid out first: the picture does not blink at each of them.
  const waitFor = (ready: Promise<void>): void => {
    waiting = ready;
    void ready.finally(() => {
      if (waiting !== ready) return;
      waiting = null;
      engine.setPiece(shown!);
    });
  };
  const feed = (): void => {
    const state = store.getState();
    const piece = state.tools.trial ?? state.piece.piece;
    if (!piece || piece === shown) return;
    shown = piece;
    if (piece.stock !== stock) {
      stock = piece.stock;
      // What comes late is drawn late.
      if (stock.some((entry) => fileNamed(entry) !== null || 'words' in entry.source)) {
        const ready = filesOf(stock).then((files) => {
          engine.setStock(files);
        });
        engine.stocking = ready;
        if (stock.some(({ source }) => 'words' in source)) waitFor(ready);
      }
    }
    if (!waiting) engine.setPiece(piece);
  };
  feed();
  return store.subscribe(feed);
}

/** Keeps a version of the open piece, where it has changed long enough. */
async function keepDue(id: string, engine: EngineClient, history: History): Promise<void> {
  const { piece } = store.getState().piece;
  if (!piece || !history.due(piece, Date.now())) return;
  const thumb = await engine.thumb().catch(() => null);
  // That the storage is full is said where the piece itself is kept.
  await keepSnapshot(id, piece, { thumb, auto: true }).catch(() => undefined);
}

/** The engine of a piece while it is open, its live inputs, and a count of the canvases that it has wanted. */
function useEngineOf(id: string) {
  const [search] = useSearchParams();
  const [generation, setGeneration] = useState(0);
  const [{ engine, inputs }] = useState(() => {
    const inputs = openInputs();
    const events = eventsOf(id, inputs, () => {
      setGeneration((n) => n + 1);
    });
    return { inputs, engine: new EngineClient(engineChoice(search.get('engine')), events) };
  });
  useEffect(() => {
    const stop = feedEngine(engine);
    void loadBakes(id, engine);
    const timer = setInterval(() => {
      void engine
        .thumb()
        .then((blob) => blob && saveThumb(id, blob))
        .catch(() => undefined);
    }, THUMB_EVERY);
    const history = new History();
    const looks = setInterval(() => void keepDue(id, engine, history), HISTORY_EVERY);
    return () => {
      stop();
      clearInterval(timer);
      clearInterval(looks);
      engine.close();
      for (const device of Object.values(inputs)) void device.dispose();
      store.dispatch(toolActions.toolsReset());
    };
  }, [engine, inputs, id]);
  return { engine, inputs, generation };
}

/** Lets the piece be heard. By itself: it looks at each change of the piece, and the views need not. */
function Sounding() {
  const [, { recording }] = useMicrophone();
  useSoundOutput(useEngine(), recording);
  return null;
}

/** Records what comes in for parts of a list. */
function Recording({ list }: { list: RecordedList }) {
  useRecording(useEngine(), list);
  return null;
}

/** The workshop with a piece in it: owns the engine's worker. */
export function OpenPiece({ id }: { id: string }) {
  const { engine, inputs, generation } = useEngineOf(id);
  const playing = useApp((s) => s.tools.playing);
  const [preview, setPreview] = useState<PreviewChoice>('auto');
  const [sheetWidth, setSheetWidth] = useState(430);
  useEffect(() => {
    engine.play(playing);
  }, [engine, playing]);
  useShortcuts(engine);
  useClipboard();
  useBoundKeys(engine);
  const outside = useOutsideOf(engine);
  return (
    <EngineContext value={engine}>
      <OutsideContext value={outside}>
        <LiveContext value={inputs}>
          <Sounding />
          {INPUT_LISTS.map((list) => (
            <Recording key={list} list={list} />
          ))}
          <Bar {...{ id, preview }} onPreview={setPreview} />
          <LineUp />
          <Box component="main" sx={{ display: 'flex', flex: 1, minHeight: 0 }}>
            <Box
              sx={{
                flex: 1,
                minWidth: 0,
                bgcolor: '#060b0c',
                display: 'flex',
                flexDirection: 'column',
              }}
            >
              <Picture preview={preview} generation={generation} />
              <Walk />
              <PictureNotices />
              <Box sx={{ bgcolor: COLOURS.ground }}>
                <BottomTabs />
              </Box>
            </Box>
            <SheetDivider width={sheetWidth} onChange={setSheetWidth} />
            <Box sx={{ width: sheetWidth, flexShrink: 0 }}>
              <Sheet />
            </Box>
          </Box>
        </LiveContext>
      </OutsideContext>
    </EngineContext>
  );
}
