import { Box, Button, InputBase, MenuItem, Select, Stack, Tooltip } from '@mui/material';
import {
  CirclePlay,
  Columns2,
  Download,
  Pause,
  Play,
  Redo2,
  SkipBack,
  SkipForward,
  Undo2,
} from 'lucide-react';
import { visuallyHidden } from '@mui/utils';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { exportPiece } from '../data/files';
import { useEngine, useReport } from '../engine/EngineContext';
import { LINES, type PreviewChoice } from '../engine/messages';
import { pieceActions } from '../store/pieceSlice';
import { store, useApp, useAppDispatch } from '../store/store';
import { useCamera, useMicrophone } from '../inputs/LiveContext';
import { toolActions } from '../store/toolSlice';
import { COLOURS, MONO } from '../ui/theme';
import { HomeLink } from '../ui/HomeLink';
import { IconAction } from '../ui/IconAction';
import { Versions } from '../versions/Versions';
import { storeStep } from '../walk/steps';
import { Volume } from './Volume';

interface Props {
  id: string;
  preview: PreviewChoice;
  onPreview: (choice: PreviewChoice) => void;
}

/** Name, undo, transport, what the engine does, and the way to the render. */
export function Bar({ id, preview, onPreview }: Props) {
  const navigate = useNavigate();
  const sounds = useApp((s) => s.piece.piece!.sounds.length > 0);
  return (
    <Stack
      component="header"
      direction="row"
      sx={{
        height: 44,
        flexShrink: 0,
        alignItems: 'center',
        gap: 1,
        px: 1.5,
        borderBottom: `1px solid ${COLOURS.line}`,
      }}
    >
      <Side>
        <HomeLink />
        <PageTitle />
        <PieceName />
        <UndoRedo />
      </Side>
      <Transport />
      {sounds && <Volume />}
      <Side end>
        <EngineState />
        <PreviewSize preview={preview} onPreview={onPreview} />
        <IconAction
          label="Export the piece file"
          onClick={() => {
            void exportPiece(store.getState().piece.piece!);
          }}
        >
          <Download size={16} />
        </IconAction>
        <Versions id={id} />
        <IconAction
          label="Compare with another version"
          onClick={() => void navigate(`/piece/${id}/compare`)}
        >
          <Columns2 size={16} />
        </IconAction>
        <Button
          variant="contained"
          startIcon={<CirclePlay size={15} />}
          sx={{ flexShrink: 0 }}
          onClick={() => {
            // It is the last of the first steps.
            if (store.getState().tools.walk !== null) storeStep(null);
            void navigate(`/piece/${id}/render`);
          }}
        >
          Render
        </Button>
      </Side>
    </Stack>
  );
}

/** The parts left and right of the transport: as wide as each other, so that nothing moves under the pointer. */
function Side({ end = false, children }: { end?: boolean; children: ReactNode }) {
  return (
    <Stack
      direction="row"
      sx={{
        flex: '1 1 0',
        minWidth: 0,
        alignItems: 'center',
        gap: 1,
        justifyContent: end ? 'flex-end' : 'flex-start',
      }}
    >
      {children}
    </Stack>
  );
}

function UndoRedo() {
  const dispatch = useAppDispatch();
  const undo = useApp((s) => s.piece.past.at(-1)?.label ?? null);
  const redo = useApp((s) => s.piece.future.at(-1)?.label ?? null);
  return (
    <>
      <IconAction
        label={undo ? `Undo: ${undo}` : 'Undo'}
        shortcut="Ctrl+Z"
        disabled={!undo}
        onClick={() => dispatch(pieceActions.undone())}
      >
        <Undo2 size={16} />
      </IconAction>
      <IconAction
        label={redo ? `Redo: ${redo}` : 'Redo'}
        shortcut="Ctrl+Shift+Z"
        disabled={!redo}
        onClick={() => dispatch(pieceActions.redone())}
      >
        <Redo2 size={16} />
      </IconAction>
    </>
  );
}

function Transport() {
  const dispatch = useAppDispatch();
  const playing = useApp((s) => s.tools.playing);
  const last = useApp((s) => s.piece.piece!.frame.length - 1);
  const engine = useEngine();
  return (
    <>
      <IconAction
        label="To the first frame"
        shortcut="Home"
        onClick={() => {
          engine.seek(0);
        }}
      >
        <SkipBack size={16} />
      </IconAction>
      <IconAction
        label={playing ? 'Pause' : 'Play'}
        shortcut="Space"
        pressed={playing}
        onClick={() => {
          dispatch(toolActions.playSet(!playing));
        }}
      >
        {playing ? <Pause size={20} /> : <Play size={20} />}
      </IconAction>
      <IconAction
        label="To the last frame"
        shortcut="End"
        onClick={() => {
          engine.seek(last);
        }}
      >
        <SkipForward size={16} />
      </IconAction>
      <FrameCounter last={last} />
    </>
  );
}

function PreviewSize({ preview, onPreview }: Pick<Props, 'preview' | 'onPreview'>) {
  return (
    <Tooltip title="Lines of the preview; the piece itself keeps its size">
      <Select
        variant="standard"
        disableUnderline
        value={String(preview)}
        onChange={({ target: { value } }) => {
          onPreview(value === 'auto' ? 'auto' : Number(value));
        }}
        inputProps={{ 'aria-label': 'Preview size' }}
        sx={{ fontSize: 12.5, color: COLOURS.faint }}
      >
        <MenuItem value="auto">auto</MenuItem>
        {LINES.map((l) => (
          <MenuItem key={l} value={String(l)}>
            {l} lines
          </MenuItem>
        ))}
      </Select>
    </Tooltip>
  );
}

/** The heading of the view, for those who go by headings; the field beside it shows the same. */
function PageTitle() {
  const name = useApp((s) => s.piece.piece!.name);
  return <h1 style={visuallyHidden}>{name}</h1>;
}

function PieceName() {
  const name = useApp((s) => s.piece.piece!.name);
  const dispatch = useAppDispatch();
  const [typed, setTyped] = useState<string | null>(null);
  const commit = (): void => {
    const text = typed?.trim().slice(0, 120);
    if (text && text !== name)
      dispatch(pieceActions.set({ path: ['name'], value: text, label: 'Rename' }));
    setTyped(null);
  };
  return (
    <InputBase
      value={typed ?? name}
      onChange={(e) => {
        setTyped(e.target.value);
      }}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') (e.target as HTMLInputElement).blur();
        if (e.key === 'Escape') setTyped(null);
      }}
      inputProps={{ 'aria-label': 'Name of the piece' }}
      sx={{
        width: `${String(Math.min(26, Math.max(8, (typed ?? name).length + 2)))}ch`,
        fontSize: 14,
        fontWeight: 600,
      }}
    />
  );
}

/** Milliseconds that a number stands at least while it plays. */
const READABLE = 200;

function FrameCounter({ last }: { last: number }) {
  const engine = useEngine();
  const counter = useRef<HTMLSpanElement>(null);
  const width = String(last).length;
  useEffect(() => {
    let told = 0;
    const tell = (): void => {
      const { report } = engine;
      // Nobody reads thirty numbers a second, and each is painted.
      if (report?.playing && performance.now() < told + READABLE) return;
      told = performance.now();
      counter.current!.textContent = String(report?.frame ?? 0).padStart(width, '0');
    };
    tell();
    return engine.subscribe(tell);
  }, [engine, width]);
  return (
    <Box
      component="span"
      aria-label="Frame"
      sx={{
        fontFamily: MONO,
        fontSize: 13,
        minWidth: `${String(2 * width + 4)}ch`,
        whiteSpace: 'nowrap',
      }}
    >
      <span ref={counter} /> <span style={{ color: COLOURS.faint }}>/ {last}</span>
    </Box>
  );
}

/** Lacks of this browser, in a word; why, where it is pointed at. */
const LACKS = typeof window !== 'undefined' && !crossOriginIsolated ? ', one core only' : '';
const WHY = [
  typeof navigator !== 'undefined' && !('gpu' in navigator)
    ? 'This browser has no WebGPU: the processor draws.'
    : '',
  LACKS && 'It shares no memory between workers here: one core does all the work.',
].join(' ');

/** Which engine, how fast, how large; and whether the picture is still being caught up with. */
function EngineState() {
  const [[, heard], [, seen]] = [useMicrophone(), useCamera()];
  const recording = heard.recording ?? seen.recording;
  const text = useReport((r) => {
    if (!r) return 'starting';
    const name = r.engine === 'gpu' ? 'GPU' : `CPU ×${String(r.threads)}${LACKS}`;
    if (r.settling > 0) return `${name} · ${String(r.settling)} frames to go`;
    if (recording !== null && r.playing) return `${name} · recording · ${r.fps.toFixed(0)} fps`;
    if (!r.exact && r.playing) return `${name} · catching up with the last change`;
    const rate = r.playing && r.fps > 0 ? ` · ${r.fps.toFixed(0)} fps` : '';
    return `${name}${rate} · ${String(r.width)}×${String(r.height)}`;
  });
  return (
    <Box
      component="span"
      aria-label="Engine"
      title={`${text}. ${WHY}`.trim()}
      sx={{
        fontFamily: MONO,
        fontSize: 12,
        color: COLOURS.glass,
        whiteSpace: 'nowrap',
        // What there is no room for is told when it is pointed at.
        minWidth: 0,
        overflow: 'hidden',
        textOverflow: 'ellipsis',
        pl: 1,
      }}
    >
      {text}
    </Box>
  );
}
