import { Box, Button, MenuItem, Stack, TextField, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { sentFiles, type Piece } from '@vast-swarm/core';
import { fileNameOf } from '../data/files';
import { filesOf } from '../data/stock';
import { loadPiece } from '../data/pieces';
import { COLOURS } from '../theme';
import { LeaveRender } from './LeaveRender';
import type { Format, Job } from './messages';
import { RenderProgress } from './RenderProgress';
import { useRender } from './useRender';

const FORMATS: { value: Format; title: string }[] = [
  { value: 'mp4', title: 'Video, MP4 (H.264)' },
  { value: 'webm', title: 'Video, WebM (VP9)' },
  { value: 'zip', title: 'PNG frames, one zip file' },
  { value: 'folder', title: 'PNG frames, into a folder' },
];
const ENDINGS: Record<Format, string> = { mp4: 'mp4', webm: 'webm', zip: 'zip', folder: '' };

/** Folders can be written to in some browsers only. */
const CAN_WRITE_FOLDERS = 'showDirectoryPicker' in window;

interface Settings {
  width: number;
  height: number;
  first: number;
  last: number;
  oversample: number;
  format: Format;
}

/** What is wrong with the settings, by field. */
function problems(s: Settings, piece: Piece): Partial<Record<keyof Settings, string>> {
  const out: Partial<Record<keyof Settings, string>> = {};
  const whole = (v: number, low: number, high: number): boolean =>
    Number.isInteger(v) && v >= low && v <= high;
  const last = piece.frame.length - 1;
  for (const side of ['width', 'height'] as const) {
    if (!whole(s[side], 16, 8192)) out[side] = '16 to 8192 pixels';
    else if (s.format === 'mp4' && s[side] % 2) out[side] = 'MP4 needs an even number';
  }
  if (!whole(s.first, 0, last)) out.first = `0 to ${String(last)}`;
  if (!whole(s.last, Math.max(0, s.first), last))
    out.last = `${String(s.first)} to ${String(last)}`;
  return out;
}

export default function RenderView() {
  const { id } = useParams();
  const [piece, setPiece] = useState<Piece | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [running, setRunning] = useState(false);
  useEffect(() => {
    if (!id) return;
    loadPiece(id)
      .then((p) => {
        if (p) setPiece(p);
        else setTrouble('There is no piece at this address.');
      })
      .catch((error: unknown) => {
        setTrouble(error instanceof Error ? error.message : String(error));
      });
  }, [id]);
  return (
    <Box component="main" sx={{ overflowY: 'auto', flex: 1 }}>
      <Box sx={{ maxWidth: 1120, mx: 'auto', px: 4, py: 3 }}>
        <LeaveRender to={`/piece/${id ?? ''}`} running={running} />
        {trouble && (
          <Typography role="alert" sx={{ mt: 3 }}>
            {trouble}
          </Typography>
        )}
        {piece && <RenderForm piece={piece} onRunning={setRunning} />}
      </Box>
    </Box>
  );
}

/** A folder that the artist chooses; null where the chooser is closed again. */
async function chosenFolder(): Promise<FileSystemDirectoryHandle | null> {
  const picker = window as unknown as {
    showDirectoryPicker: (o: object) => Promise<FileSystemDirectoryHandle>;
  };
  return picker.showDirectoryPicker({ mode: 'readwrite' }).catch(() => null);
}

async function jobOf(piece: Piece, settings: Settings): Promise<Job | null> {
  const job: Job = { piece, files: new Map(), ...settings };
  if (settings.format === 'folder') {
    const folder = await chosenFolder();
    if (!folder) return null;
    job.folder = folder;
  }
  return { ...job, files: sentFiles(await filesOf(piece.stock)) };
}

interface FormProps {
  piece: Piece;
  onRunning: (running: boolean) => void;
}

function RenderForm({ piece, onRunning }: FormProps) {
  const [settings, setSettings] = useState<Settings>({
    width: piece.frame.width,
    height: piece.frame.height,
    first: 0,
    last: piece.frame.length - 1,
    oversample: 1,
    format: 'mp4',
  });
  const { state, look, start, cancel } = useRender();
  const wrong = problems(settings, piece);
  const running = state.phase === 'running';
  useEffect(() => {
    onRunning(running);
  }, [running, onRunning]);
  const frames = settings.last - settings.first + 1;
  return (
    <>
      <Typography variant="h1" sx={{ mt: 1, mb: 2.5 }}>
        Render {piece.name}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '380px 1fr', gap: 5 }}>
        <Stack
          component="form"
          sx={{ gap: 0.75 }}
          onSubmit={(e) => {
            e.preventDefault();
            void jobOf(piece, settings).then((job) => job && start(job));
          }}
        >
          <Fields
            {...{ piece, settings, wrong, running }}
            put={(part) => {
              setSettings((s) => ({ ...s, ...part }));
            }}
          />
          <Stack direction="row" sx={{ gap: 1, mt: 1.5 }}>
            <Button
              type="submit"
              variant="contained"
              size="medium"
              disabled={running || Object.keys(wrong).length > 0}
            >
              Render {frames > 0 ? `${String(frames)} frames` : ''}
            </Button>
            {running && (
              <Button color="inherit" size="medium" onClick={cancel}>
                Cancel
              </Button>
            )}
          </Stack>
          <Typography sx={{ color: COLOURS.faint, fontSize: 12.5, mt: 2 }}>
            Rendered by the CPU engine, so that the pixels are the same on every machine and from
            the command line.
          </Typography>
        </Stack>
        <RenderProgress
          state={state}
          look={look}
          name={`${fileNameOf(piece.name)}.${ENDINGS[settings.format]}`}
        />
      </Box>
    </>
  );
}

interface FieldsProps {
  piece: Piece;
  settings: Settings;
  wrong: Partial<Record<keyof Settings, string>>;
  running: boolean;
  put: (part: Partial<Settings>) => void;
}

/** What a render is asked for. */
function Fields({ piece, settings, wrong, running, put }: FieldsProps) {
  const numberField = (key: 'width' | 'height' | 'first' | 'last', label: string) => (
    <TextField
      label={label}
      type="number"
      size="small"
      value={settings[key]}
      disabled={running}
      error={wrong[key] !== undefined}
      helperText={wrong[key] ?? ' '}
      onChange={(e) => {
        put({ [key]: Number(e.target.value) });
      }}
      sx={{ flex: 1 }}
    />
  );
  return (
    <>
      <TextField
        select
        label="As"
        size="small"
        value={settings.format}
        disabled={running}
        helperText=" "
        onChange={(e) => {
          put({ format: e.target.value as Format });
        }}
      >
        {FORMATS.map(({ value, title }) => {
          const missing = value === 'folder' && !CAN_WRITE_FOLDERS;
          return (
            <MenuItem key={value} value={value} disabled={missing}>
              {title}
              {missing ? ' (not in this browser)' : ''}
            </MenuItem>
          );
        })}
      </TextField>
      <Stack direction="row" sx={{ gap: 1 }}>
        {numberField('width', 'Width')}
        {numberField('height', 'Height')}
      </Stack>
      <Sizes frame={piece.frame} running={running} put={put} />
      <Stack direction="row" sx={{ gap: 1 }}>
        {numberField('first', 'From frame')}
        {numberField('last', 'To frame')}
      </Stack>
      <TextField
        select
        label="Oversampling"
        size="small"
        value={settings.oversample}
        disabled={running}
        helperText="Drawn this many times larger each way and averaged"
        onChange={(e) => {
          put({ oversample: Number(e.target.value) });
        }}
      >
        {[1, 2, 3, 4].map((k) => (
          <MenuItem key={k} value={k}>
            {k === 1 ? '1, none' : String(k)}
          </MenuItem>
        ))}
      </TextField>
    </>
  );
}

const SIZES: readonly [string, number][] = [
  ['Full size', 1],
  ['Two thirds', 2 / 3],
  ['Half', 0.5],
  ['A quarter', 0.25],
  ['Double', 2],
];

/** Sizes by the piece's own; always even, as videos want them. */
function Sizes({
  frame,
  running,
  put,
}: Pick<FieldsProps, 'running' | 'put'> & { frame: Piece['frame'] }) {
  const even = (v: number): number => Math.max(16, 2 * Math.round(v / 2));
  return (
    <Stack direction="row" sx={{ gap: 0.5, mt: -1.5, mb: 1 }}>
      {SIZES.map(([title, k]) => (
        <Button
          key={title}
          color="inherit"
          disabled={running}
          sx={{ color: COLOURS.faint, minWidth: 0 }}
          onClick={() => {
            put({ width: even(frame.width * k), height: even(frame.height * k) });
          }}
        >
          {title}
        </Button>
      ))}
    </Stack>
  );
}
