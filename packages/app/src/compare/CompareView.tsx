import { Box, Button, ListSubheader, MenuItem, Select, Slider, Stack } from '@mui/material';
import { ArrowLeft, Pause, Play } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Piece } from '@vast-swarm/core';
import { keepSnapshot } from '../data/snapshots';
import { noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch, usePiece } from '../store/store';
import { COLOURS, MONO } from '../theme';
import { CannotOpen, useOpenPiece } from '../workshop/useOpenPiece';
import { withNeeds } from './differences';
import { DifferenceList } from './DifferenceList';
import { useVersions, type Version } from './useVersions';
import { VersionPicture } from './VersionPicture';

/** Two versions at the same frame and through the same camera. */
export default function CompareView() {
  const { id = '' } = useParams();
  const { open, trouble } = useOpenPiece(id);
  if (trouble) return <CannotOpen trouble={trouble} />;
  return open ? <Compare key={id} id={id} /> : null;
}

function Compare({ id }: { id: string }) {
  const piece = usePiece();
  const dispatch = useAppDispatch();
  const versions = useVersions(id);
  const [chosen, setChosen] = useState('');
  const [layout, setLayout] = useState<'beside' | 'wipe'>('wipe');
  const [wipe, setWipe] = useState(50);
  const [frame, setFrame] = useState(60);
  const [playing, setPlaying] = useState(false);
  const version = versions.find((v) => v.key === chosen) ?? versions[0];
  const last = piece.frame.length - 1;
  // Through the same camera, or what is seen would differ by where one stands.
  const other = useMemo<Piece | null>(
    () => (version ? { ...version.piece, camera: piece.camera, frame: piece.frame } : null),
    [version, piece.camera, piece.frame],
  );
  const shown = useRef({ here: -1, there: -1 });
  const told = (side: 'here' | 'there', at: number): void => {
    shown.current[side] = at;
    // The next frame when both have come to this one.
    if (playing && shown.current.here === frame && (!other || shown.current.there === frame)) {
      setFrame(frame < last ? frame + 1 : 0);
    }
  };
  useEffect(() => {
    shown.current = { here: -1, there: -1 };
  }, [frame]);
  const ratio = piece.frame.width / piece.frame.height;
  const common = { frame, lines: 360 };
  return (
    <Box component="main" sx={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
      <Stack
        direction="row"
        sx={{
          alignItems: 'center',
          gap: 1.5,
          px: 1.5,
          height: 48,
          borderBottom: `1px solid ${COLOURS.line}`,
        }}
      >
        <Button
          component={Link}
          to={`/piece/${id}`}
          startIcon={<ArrowLeft size={15} />}
          color="inherit"
        >
          {piece.name}
        </Button>
        <Box sx={{ color: COLOURS.faint }}>against</Box>
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
        <Button
          aria-pressed={layout === 'wipe'}
          onClick={() => {
            setLayout(layout === 'wipe' ? 'beside' : 'wipe');
          }}
        >
          {layout === 'wipe' ? 'Side by side' : 'Wipe'}
        </Button>
      </Stack>
      <Stack direction="row" sx={{ flex: 1, minHeight: 0 }}>
        <Box
          sx={{
            flex: 1,
            minWidth: 0,
            p: 1.5,
            display: 'grid',
            placeItems: 'center',
            bgcolor: '#060b0c',
          }}
        >
          <Box
            sx={{
              ...{ position: 'relative', width: '100%', display: 'grid', gap: '4px' },
              gridTemplateColumns: layout === 'beside' && other ? '1fr 1fr' : '1fr',
            }}
          >
            <Box sx={{ aspectRatio: String(ratio) }}>
              <VersionPicture
                label="This version"
                piece={piece}
                onShown={(at) => {
                  told('here', at);
                }}
                {...common}
              />
            </Box>
            {other && (
              <Box
                sx={{
                  aspectRatio: String(ratio),
                  ...(layout === 'wipe'
                    ? {
                        ...{ position: 'absolute', inset: 0 },
                        clipPath: `inset(0 0 0 ${String(wipe)}%)`,
                        borderLeft: `1px solid ${COLOURS.amber}`,
                      }
                    : {}),
                }}
              >
                <VersionPicture
                  label="Other version"
                  piece={other}
                  onShown={(at) => {
                    told('there', at);
                  }}
                  {...common}
                />
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
                const changes = withNeeds(piece, version.piece, change);
                if (!changes) {
                  const message = `${title} names a swarm that is not in this version: take that over first.`;
                  dispatch(noticed({ key: 'take', kind: 'note', message }));
                  return;
                }
                const label = `Take over ${title}`;
                // One step to undo, however many things came along.
                for (const c of changes) dispatch(pieceActions.set({ ...c, label, merge: label }));
                dispatch(pieceActions.settled());
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
      <Stack
        direction="row"
        sx={{
          alignItems: 'center',
          gap: 2,
          px: 2,
          height: 48,
          borderTop: `1px solid ${COLOURS.line}`,
        }}
      >
        <Button
          aria-label={playing ? 'Stop' : 'Play both'}
          onClick={() => {
            setPlaying(!playing);
            if (!playing) setFrame(frame < last ? frame + 1 : 0);
          }}
        >
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
    </Box>
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
