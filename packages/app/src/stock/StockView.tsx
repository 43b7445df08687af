import { Box, Button, IconButton, LinearProgress, Stack, Typography } from '@mui/material';
import { Trash2, Upload } from 'lucide-react';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { Link } from 'react-router';
import { fileNamed, made, madeTitle, type StockData } from '@vast-swarm/core/stock';
import { MADE } from '@vast-swarm/core/demo';
import { wavBytes } from '@vast-swarm/core/formats';
import { library, type FailedStock, type StoredPiece, type StoredStock } from '../data/db';
import { importStock, STOCK_ACCEPT, stockOf } from '../data/stock';
import { framesFile } from '../data/frames';
import { useLive } from '../data/useLive';
import { COLOURS } from '../ui/theme';
import { Empty } from '../ui/Empty';
import { FileChooser } from '../ui/FileChooser';
import { aboutStock } from '../reading/about';
import { TYPE_NAMES } from './names';
import { PlaySound } from './PlaySound';
import { SaveMotion } from './SaveMotion';
import { StockPreview } from './StockPreview';
import { useStoredStock } from './useStoredStock';

interface Reading {
  file: string;
  part: number;
}

/** Takes files in, one after the other; tells which is being read. */
function useImport() {
  const [reading, setReading] = useState<Reading | null>(null);
  const take = async (files: readonly File[]): Promise<void> => {
    for (const file of files) {
      setReading({ file: file.name, part: 0 });
      await importStock(file, (part) => {
        setReading({ file: file.name, part });
      }).catch(() => undefined);
    }
    setReading(null);
  };
  /** A folder of numbered frames, as one clip. */
  const takeFrames = async (files: readonly File[]): Promise<void> => {
    const name = files[0]?.webkitRelativePath.split('/')[0] ?? 'frames';
    setReading({ file: name, part: 0 });
    try {
      await take([await framesFile(files)]);
    } catch (error) {
      const problem = `${name}: ${error instanceof Error ? error.message : String(error)}`;
      await library.failures.put({ file: name, problem, added: Date.now() });
    }
    setReading(null);
  };
  return { reading, take, takeFrames };
}

/** Meshes, pictures, clips, outlines, point clouds and sounds: what there is, what uses it, and what failed. */
export default function StockView() {
  const { reading, take, takeFrames } = useImport();
  const [over, setOver] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <Box
      component="main"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => {
        setOver(false);
      }}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        void take([...e.dataTransfer.files]);
      }}
      sx={{
        flex: 1,
        overflowY: 'auto',
        px: 4,
        py: 3,
        outline: over ? `2px dashed ${COLOURS.amber}` : 'none',
        outlineOffset: -8,
      }}
    >
      <Head {...{ take, takeFrames, chooser }} />
      <Typography sx={{ color: COLOURS.faint, mb: 2 }}>
        Meshes (OBJ, PLY, STL, glTF, GLB), outlines (SVG), pictures (PNG, JPEG, WebP), clips (MP4,
        WebM, GIF, animated PNG, numbered frames in a folder or zip), motions (BVH, skins of glTF,
        CSV of joints), point clouds (PLY, XYZ, CSV) and sounds (WAV, FLAC, Ogg, Opus, MP3). Drop
        files anywhere here.
      </Typography>
      {reading && (
        <Box role="status" sx={{ mb: 2, maxWidth: 420 }}>
          Reading {reading.file}
          <LinearProgress
            variant={reading.part > 0 ? 'determinate' : 'indeterminate'}
            value={100 * reading.part}
          />
        </Box>
      )}
      <Failures />
      <Shelves onImport={() => chooser.current!.click()} />
    </Box>
  );
}

type Take = (files: readonly File[]) => Promise<void>;

interface HeadProps {
  take: Take;
  takeFrames: Take;
  chooser: RefObject<HTMLInputElement | null>;
}

function Head({ take, takeFrames, chooser }: HeadProps) {
  const folder = useRef<HTMLInputElement>(null);
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 2, mb: 0.5 }}>
      <Typography variant="h1" sx={{ flex: 1 }}>
        Stock
      </Typography>
      <Button component={Link} to="/">
        To the pieces
      </Button>
      <Button onClick={() => folder.current!.click()}>A folder of frames</Button>
      <FileChooser
        ref={folder}
        label="Folder of numbered frames"
        onChoose={(files) => {
          void takeFrames(files);
        }}
      />
      <Button
        variant="contained"
        startIcon={<Upload size={15} />}
        onClick={() => chooser.current!.click()}
      >
        Import files
      </Button>
      <FileChooser
        ref={chooser}
        label="Files for the stock"
        accept={STOCK_ACCEPT}
        multiple
        onChoose={(files) => {
          void take(files);
        }}
      />
    </Stack>
  );
}

/** Files that could not be taken, and why. */
function Failures() {
  return useLive(allFailures, NO_FAILURES).map((f) => (
    <Stack
      key={f.file}
      direction="row"
      role="alert"
      sx={{ alignItems: 'center', gap: 1, color: COLOURS.coral, mb: 0.5 }}
    >
      <Box sx={{ flex: 1 }}>{f.problem}</Box>
      <IconButton
        aria-label={`Forget ${f.file}`}
        onClick={() => void library.failures.delete(f.file)}
      >
        <Trash2 size={14} />
      </IconButton>
    </Stack>
  ));
}

/** Things from files, and things made by code. */
function Shelves({ onImport }: { onImport: () => void }) {
  const stored = useStoredStock();
  const users = useUsers();
  return (
    <>
      <Typography variant="h2" sx={{ mt: 2, mb: 1 }}>
        From files
      </Typography>
      {stored.length === 0 && (
        <Empty
          action={
            <Button variant="outlined" onClick={onImport}>
              Choose the first files
            </Button>
          }
        >
          Nothing yet. What you import here, or in a dial that wants a file, stays in this browser.
        </Empty>
      )}
      <Shelf>
        {stored.map((item) => (
          <StoredCard key={item.hash} item={item} users={users.get(item.hash) ?? []} />
        ))}
      </Shelf>
      <Typography variant="h2" sx={{ mt: 3, mb: 1 }}>
        Made by code
      </Typography>
      <Shelf>
        {MADE.map((name) => (
          <Card
            key={name}
            name={madeTitle(name)}
            kind={TYPE_NAMES[made(name).type]}
            about={aboutStock(made(name))}
            users={users.get(name) ?? []}
            data={made(name)}
          />
        ))}
      </Shelf>
    </>
  );
}

function Shelf({ children }: { children: React.ReactNode }) {
  return (
    <Box
      component="ul"
      sx={{
        display: 'grid',
        gap: 2,
        p: 0,
        m: 0,
        listStyle: 'none',
        gridTemplateColumns: 'repeat(auto-fill, minmax(204px, 1fr))',
      }}
    >
      {children}
    </Box>
  );
}

interface CardProps {
  name: string;
  kind: string;
  about: string;
  users: string[];
  data: StockData | undefined;
  /** The file it came as, where there is one. */
  file?: Blob;
  onRemove?: () => void;
}

function Card({ name, kind, about, users, data, file, onRemove }: CardProps) {
  return (
    <Box component="li" aria-label={name} sx={{ fontSize: 12.5 }}>
      {data ? (
        <StockPreview data={data} name={name} />
      ) : (
        <Box sx={{ width: 200, height: 130, bgcolor: '#060b0c' }} />
      )}
      <Stack direction="row" sx={{ alignItems: 'center' }}>
        <Box sx={{ fontWeight: 600, fontSize: 13.5, flex: 1 }}>{name}</Box>
        {data?.type === 'sound' && (
          <PlaySound name={name} file={() => file ?? new Blob([wavBytes(data)])} />
        )}
        {data?.type === 'motion' && <SaveMotion name={name} motion={data} />}
        {onRemove && (
          <IconButton aria-label={`Remove ${name}`} onClick={onRemove}>
            <Trash2 size={13} />
          </IconButton>
        )}
      </Stack>
      <Box sx={{ color: COLOURS.glass }}>{kind}</Box>
      <Box sx={{ color: COLOURS.faint }}>{about}</Box>
      <Box sx={{ color: COLOURS.faint }}>
        {users.length > 0 ? `Used by ${users.join(', ')}` : 'Not used'}
      </Box>
    </Box>
  );
}

function StoredCard({ item, users }: { item: StoredStock; users: string[] }) {
  const [data, setData] = useState<StockData>();
  useEffect(() => {
    let current = true;
    void stockOf(item.hash).then((d) => {
      if (current) setData(d);
    });
    return () => {
      current = false;
    };
  }, [item.hash]);
  return (
    <Card
      name={item.name}
      kind={TYPE_NAMES[item.type]}
      about={item.about}
      users={users}
      data={data}
      file={item.bytes}
      onRemove={() => void library.stock.delete(item.hash)}
    />
  );
}

const allPieces = (): Promise<StoredPiece[]> => library.pieces.toArray();
const NO_PIECES: StoredPiece[] = [];

/** Names of the pieces that use a thing, by hash or by the name of what is made by code. */
function useUsers(): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const { piece } of useLive(allPieces, NO_PIECES)) {
    // Pieces of older versions have no stock.
    for (const entry of (piece as Partial<typeof piece>).stock ?? []) {
      const { source } = entry;
      const key = fileNamed(entry)?.hash ?? ('made' in source ? source.made : '');
      if (key) found.set(key, [...(found.get(key) ?? []), piece.name]);
    }
  }
  return found;
}

const allFailures = (): Promise<FailedStock[]> => library.failures.toArray();
const NO_FAILURES: FailedStock[] = [];
