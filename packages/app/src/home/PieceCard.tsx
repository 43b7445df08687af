import { Box, ButtonBase, Stack } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { useState } from 'react';
import { Copy, Download, Tag, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import type { StoredPiece } from '../data/db';
import { exportPiece } from '../data/files';
import { duplicatePiece, removePiece } from '../data/pieces';
import { whyNotKept } from '../data/trouble';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';
import { IconAction } from '../ui/IconAction';
import { Filing } from './Filing';
import { MovingThumb } from './MovingThumb';
import { PieceStill } from './PieceStill';

export function PieceCard({ stored }: { stored: StoredPiece }) {
  const { piece, id } = stored;
  const [moving, setMoving] = useState(false);
  const [filing, setFiling] = useState(false);
  const rest = (): void => {
    setMoving(false);
  };
  const wake = (): void => {
    // What moves by itself is not for everybody.
    setMoving(!matchMedia('(prefers-reduced-motion: reduce)').matches);
  };
  const { width, height } = piece.frame;
  return (
    <Box component="article" aria-label={piece.name}>
      <ButtonBase
        component={Link}
        to={`/piece/${id}`}
        onMouseEnter={wake}
        onMouseLeave={rest}
        onFocusVisible={wake}
        onBlur={rest}
        sx={{
          display: 'block',
          position: 'relative',
          aspectRatio: `${String(width)} / ${String(height)}`,
          maxHeight: 240,
          bgcolor: '#03080a',
          borderRadius: 1,
          overflow: 'hidden',
          border: `1px solid ${COLOURS.line}`,
          '&:hover': { borderColor: COLOURS.amber },
        }}
      >
        <span style={visuallyHidden}>Open {piece.name}</span>
        <PieceStill stored={stored} style={{ width: '100%', height: '100%' }}>
          <Box
            aria-hidden
            sx={{
              display: 'grid',
              placeItems: 'center',
              height: '100%',
              minHeight: 160,
              color: COLOURS.faint,
            }}
          >
            Not seen yet
          </Box>
        </PieceStill>
        {moving && <MovingThumb id={id} />}
      </ButtonBase>
      <Caption
        stored={stored}
        onFile={() => {
          setFiling(!filing);
        }}
      />
      {filing && (
        <Filing
          stored={stored}
          onDone={() => {
            setFiling(false);
          }}
        />
      )}
    </Box>
  );
}

/** Name of a piece, what it is, and what can be done with it. */
function Caption({ stored, onFile }: { stored: StoredPiece; onFile: () => void }) {
  const { piece } = stored;
  const dispatch = useAppDispatch();
  const { width, height, rate, length } = piece.frame;
  const labels = [stored.folder ?? '', ...(stored.tags ?? [])].filter(Boolean);
  const remove = async (): Promise<void> => {
    try {
      await removePiece(stored);
    } catch (error) {
      const message = `${piece.name} was not deleted: the browser's storage ${whyNotKept(error)}.`;
      dispatch(noticed({ key: 'deleted', kind: 'wrong', message }));
      return;
    }
    const message = `${piece.name} was deleted.`;
    dispatch(noticed({ key: 'deleted', kind: 'note', message, action: 'restore' }));
  };
  return (
    <Stack direction="row" sx={{ alignItems: 'center', pt: 0.75 }}>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box
          sx={{
            fontWeight: 600,
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            whiteSpace: 'nowrap',
          }}
        >
          {piece.name}
        </Box>
        <Box sx={{ color: COLOURS.faint, fontSize: 12, fontFamily: MONO }}>
          {[
            `${String(width)}×${String(height)}`,
            `${(length / rate).toFixed(0)} s`,
            ...labels,
          ].join(' · ')}
        </Box>
      </Box>
      {!stored.demo && (
        <IconAction label={`File ${piece.name}: folder and tags`} onClick={onFile}>
          <Tag size={15} />
        </IconAction>
      )}
      <IconAction label={`Duplicate ${piece.name}`} onClick={() => void duplicatePiece(stored)}>
        <Copy size={15} />
      </IconAction>
      <IconAction
        label={`Export ${piece.name}`}
        onClick={() => {
          void exportPiece(piece);
        }}
      >
        <Download size={15} />
      </IconAction>
      <IconAction label={`Delete ${piece.name}`} onClick={() => void remove()}>
        <Trash2 size={15} />
      </IconAction>
    </Stack>
  );
}
