import { Box, Button, ListSubheader, MenuItem, Select, Slider, Stack } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { ArrowLeft, Pause, Play } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import type { Piece } from '@vast-swarm/core/piece';
import { keepSnapshot } from '../data/snapshots';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch, usePiece } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';
import { CannotOpen } from '../ui/CannotOpen';
import { useOpenPiece } from '../workshop/useOpenPiece';
import { withNeeds, type Difference } from './differences';
import { DifferenceList } from './DifferenceList';
import { useVersions, type Version } from './useVersions';
import { VersionPicture } from './VersionPicture';

/** Two versions at the same frame and through the same camera. */
export default function CompareView() {
  const { id = '' } = useParams();
  const { open, trouble } = useOpenPiece(id);
  if (trouble) return <CannotOpen what="piece" trouble={trouble} />;
  return open ? <Compare key={id} id={id} /> : null;
}

type Layout = 'beside' | 'wipe';

function Compare({ id }: { id: string }) {
  const piece = usePiece();
  const versions = useVersions(id);
  const [search] = useSearchParams();
  const [chosen, setChosen] = useState(`kept ${search.get('with') ?? ''}`);
  const [layout, setLayout] = useState<Layout>('wipe');
  const version = versions.find((v) => v.key === chosen) ?? versions[0];
  // Through the same camera, or what is seen would differ by where one stands.
  const other = useMemo<Piece | null>(
    () => (version ? { ...version.piece, camera: piece.camera, frame: piece.frame } : null),
    [version, piece.camera, piece.frame],
  );
  const time = useBothInStep(piece.frame.length - 1, other !== null);
  const take = useTaking(piece, version);
  return (
    <Box component="main" sx={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
      <CompareBar id={id} name={piece.name} layout={layout} onLayout={setLayout}>
        <VersionSelect versions={versions} value={version?.key ?? ''} onChange={setChosen} />
        <Box sx={{ flex: 1 }} />
        <Button
          variant="outlined"
          color="inherit"
          onClick={() => {
            // The version that is looked at stays.
            if (version) setChosen(version.key);
            void keepSnapshot(id, piece);
          }}
        >
          Keep this version
        </Button>
      </CompareBar>
      <Stack direction="row" sx={{ flex: 1, minHeight: 0 }}>
        <BothPictures piece={piece} other={other} layout={layout} time={time} />
        <Box
          component="section"
          aria-label="Differences"
          sx={{ width: 360, overflowY: 'auto', p: 1.5, bgcolor: COLOURS.sheet }}
        >
          {version ? (
            <DifferenceList
              here={piece}
              there={version.piece}
              onTake={(title, change) => {
                // Taking over makes a new undo point: the version that is looked at stays.
                setChosen(version.key);
                take(title, change);
              }}
            />
          ) : (
            <Box sx={{ color: COLOURS.faint }}>
              There is nothing to compare with yet: keep a version, or change something in the
              workshop.
            </Box>
          )}
        </Box>
      </Stack>
      <TimeRow time={time} />
    </Box>
  );
}

/** Takes a difference over from the other version, with what it needs. */
function useTaking(
  piece: Piece,
  version: Version | undefined,
): (title: string, change: Difference['change']) => void {
  const dispatch = useAppDispatch();
  return (title, change) => {
    if (!version) return;
    const label = `Take over ${title}`;
    // One step to undo, however many things came along.
    for (const c of withNeeds(piece, version.piece, change)) {
      if ('remove' in c) dispatch(pieceActions.removed(c.remove));
      else dispatch(pieceActions.set({ ...c, label, merge: label }));
    }
    dispatch(pieceActions.settled());
  };
}

/** One frame that both versions are shown at, and whether it moves on. */
interface Time {
  frame: number;
  last: number;
  playing: boolean;
  setFrame: (frame: number) => void;
  togglePlaying: () => void;
  /** A version is shown at a frame. */
  told: (side: 'here' | 'there', frame: number) => void;
}

/** Time that goes on when both versions have come to the present frame. */
function useBothInStep(last: number, both: boolean): Time {
  const [frame, setFrame] = useState(60);
  const [playing, setPlaying] = useState(false);
  const shown = useRef({ here: -1, there: -1 });
  const next = frame < last ? frame + 1 : 0;
  useEffect(() => {
    shown.current = { here: -1, there: -1 };
  }, [frame]);
  return {
    frame,
    last,
    playing,
    setFrame,
    togglePlaying: () => {
      setPlaying(!playing);
      if (!playing) setFrame(next);
    },
    told: (side, at) => {
      shown.current[side] = at;
      const { here, there } = shown.current;
      if (playing && here === frame && (!both || there === frame)) setFrame(next);
    },
  };
}

const ROW = { direction: 'row', sx: { alignItems: 'center', height: 48 } } as const;

interface BarProps {
  id: string;
  name: string;
  layout: Layout;
  onLayout: (layout: Layout) => void;
  children: ReactNode;
}

function CompareBar({ id, name, layout, onLayout, children }: BarProps) {
  return (
    <Stack
      {...ROW}
      sx={{ ...ROW.sx, gap: 1.5, px: 1.5, borderBottom: `1px solid ${COLOURS.line}` }}
    >
      <h1 style={visuallyHidden}>Versions of {name}</h1>
      <Button
        component={Link}
        to={`/piece/${id}`}
        startIcon={<ArrowLeft size={15} />}
        color="inherit"
      >
        {name}
      </Button>
      <Box sx={{ color: COLOURS.faint }}>against</Box>
      {children}
      <Button
        aria-pressed={layout === 'wipe'}
        onClick={() => {
          onLayout(layout === 'wipe' ? 'beside' : 'wipe');
        }}
      >
        {layout === 'wipe' ? 'Side by side' : 'Wipe'}
      </Button>
    </Stack>
  );
}

interface PicturesProps {
  piece: Piece;
  other: Piece | null;
  layout: Layout;
  time: Time;
}

/** This version and the other, side by side or one over the other. */
function BothPictures({ piece, other, layout, time }: PicturesProps) {
  const [wipe, setWipe] = useState(50);
  const aspectRatio = String(piece.frame.width / piece.frame.height);
  const over = {
    position: 'absolute',
    inset: 0,
    clipPath: `inset(0 0 0 ${String(wipe)}%)`,
    borderLeft: `1px solid ${COLOURS.amber}`,
  };
  const picture = (label: string, shown: Piece, side: 'here' | 'there') => (
    <VersionPicture
      {...{ label, piece: shown, frame: time.frame, lines: 360 }}
      onShown={(at) => {
        time.told(side, at);
      }}
    />
  );
  return (
    <Box
      sx={{
        flex: 1,
        minWidth: 0,
        p: 1.5,
        bgcolor: '#060b0c',
        display: 'grid',
        placeItems: 'center',
      }}
    >
      <Box
        sx={{
          position: 'relative',
          width: '100%',
          display: 'grid',
          gap: '4px',
          gridTemplateColumns: layout === 'beside' && other ? '1fr 1fr' : '1fr',
        }}
      >
        <Box sx={{ aspectRatio }}>{picture('This version', piece, 'here')}</Box>
        {other && (
          <Box sx={{ aspectRatio, ...(layout === 'wipe' ? over : {}) }}>
            {picture('Other version', other, 'there')}
          </Box>
        )}
        {layout === 'wipe' && other && (
          <Slider
            aria-label="Wipe"
            value={wipe}
            onChange={(_, v) => {
              setWipe(v);
            }}
            sx={{ position: 'absolute', bottom: -34, left: 0, right: 0 }}
          />
        )}
      </Box>
    </Box>
  );
}

function TimeRow({ time: { frame, last, playing, setFrame, togglePlaying } }: { time: Time }) {
  return (
    <Stack {...ROW} sx={{ ...ROW.sx, gap: 2, px: 2, borderTop: `1px solid ${COLOURS.line}` }}>
      <Button aria-label={playing ? 'Stop' : 'Play both'} onClick={togglePlaying}>
        {playing ? <Pause size={16} /> : <Play size={16} />}
      </Button>
      <Slider
        aria-label="Frame"
        min={0}
        max={last}
        value={frame}
        onChange={(_, v) => {
          setFrame(v);
        }}
      />
      <Box sx={{ fontFamily: MONO, fontSize: 13, width: 90 }}>
        {frame} / {last}
      </Box>
    </Stack>
  );
}

interface SelectProps {
  versions: readonly Version[];
  value: string;
  onChange: (key: string) => void;
}

function VersionSelect({ versions, value, onChange }: SelectProps) {
  const groups = [...new Set(versions.map((v) => v.group))];
  return (
    <Select
      variant="standard"
      disableUnderline
      displayEmpty
      value={value}
      onChange={(e) => {
        onChange(e.target.value);
      }}
      inputProps={{ 'aria-label': 'Version to compare with' }}
      sx={{ fontSize: 14, color: COLOURS.amber, minWidth: 180 }}
    >
      {groups.flatMap((group) => [
        <ListSubheader key={group} sx={{ bgcolor: COLOURS.sheet, lineHeight: '28px' }}>
          {group}
        </ListSubheader>,
        ...versions
          .filter((v) => v.group === group)
          .map((v) => (
            <MenuItem key={v.key} value={v.key}>
              {v.title}
            </MenuItem>
          )),
      ])}
    </Select>
  );
}
