import { Button, Menu, MenuItem } from '@mui/material';
import { ChevronDown } from 'lucide-react';
import { useRef, useState } from 'react';
import { fileNameOf, offerOf, playedTable, readPlayed } from '@vast-swarm/core/formats';
import { saveAs } from '../data/files';
import { noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store, useApp, useAppDispatch } from '../store/store';
import { FileChooser } from '../ui/FileChooser';

/** Recorded controls and cues of the piece: they can be forgotten, saved as a table, and taken from one. */
export function Recorded() {
  const dispatch = useAppDispatch();
  const count = useApp((s) => s.piece.piece!.played.length);
  const some = useApp((s) => s.piece.piece!.controls.length + s.piece.piece!.cues.length > 0);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  if (!some) return null;
  const save = (): void => {
    const piece = store.getState().piece.piece!;
    const blob = new Blob([playedTable(piece)], { type: 'text/csv' });
    saveAs(blob, `${fileNameOf(piece.name)} played.csv`);
  };
  const take = async (file: File): Promise<void> => {
    try {
      const played = readPlayed(offerOf(store.getState().piece.piece!), await file.text());
      dispatch(pieceActions.played(played));
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      const message = `${file.name} was not taken: ${why}`;
      dispatch(noticed({ key: 'played', kind: 'wrong', message }));
    }
  };
  const words =
    count === 0
      ? 'Nothing recorded'
      : count === 1
        ? 'One change recorded'
        : `${count.toLocaleString('en-GB')} changes recorded`;
  const close = (): void => {
    setAnchor(null);
  };
  return (
    <>
      <Button
        aria-haspopup="menu"
        endIcon={<ChevronDown size={13} />}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
        sx={{ py: 0, fontSize: 12 }}
      >
        {words}
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={close}>
        <MenuItem
          disabled={count === 0}
          onClick={() => {
            close();
            save();
          }}
        >
          Save as a table (CSV)
        </MenuItem>
        <MenuItem
          onClick={() => {
            close();
            chooser.current!.click();
          }}
        >
          Take from a table…
        </MenuItem>
        <MenuItem
          disabled={count === 0}
          onClick={() => {
            close();
            dispatch(pieceActions.played([]));
          }}
        >
          Forget all of it
        </MenuItem>
      </Menu>
      <FileChooser
        ref={chooser}
        label="Table of what is played"
        accept=".csv,text/csv"
        onChoose={([file]) => {
          void take(file);
        }}
      />
    </>
  );
}
