import { Button, Menu, MenuItem } from '@mui/material';
import { ChevronDown } from 'lucide-react';
import { useRef, useState } from 'react';
import { fileNameOf } from '@vast-swarm/core/formats';
import { nightTable, readNight, type NightRow } from '@vast-swarm/core/show';
import { saveAs } from '../data/files';
import { rowsOf } from '../data/nights';
import { exportShow } from '../data/shows';
import type { OpenShow } from '../show/useShow';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { useStanding, type Desk } from './desk';
import { FileChooser } from '../ui/FileChooser';

interface Props {
  id: string;
  desk: Desk;
  open: OpenShow;
}

/** What can be done with the record of a night, and how it is told when something goes wrong. */
function useRecordOf(id: string, desk: Desk, { show, pieces }: OpenShow) {
  const dispatch = useAppDispatch();
  const pieceOf = (piece: string) => pieces.get(piece) ?? null;
  const tell = (error: unknown): void => {
    const message = error instanceof Error ? error.message : String(error);
    dispatch(noticed({ key: 'night', kind: 'wrong', message }));
  };
  const save = async (): Promise<void> => {
    const table = nightTable(show, await rowsOf(id), pieceOf);
    saveAs(new Blob([table], { type: 'text/csv' }), `${fileNameOf(show.name)} night.csv`);
  };
  const replay = (rows: NightRow[]): void => {
    if (rows.length > 0) desk.do({ do: 'replay', rows });
    else tell(new Error('Nothing has happened in this night yet.'));
  };
  const read = async (file: File): Promise<void> => {
    try {
      replay(readNight(show, await file.text(), pieceOf));
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      tell(new Error(`${file.name} was not taken: ${why}`));
    }
  };
  return { tell, save, replay, read };
}

/** Menu of the night as a whole, and of its record. */
export function NightMenu({ id, desk, open }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const there = useStanding(desk, (s) => s !== null);
  const outside = useStanding(desk, (s) => s?.outside ?? 'off');
  const wall = useStanding(desk, (s) => s?.wall ?? 'off');
  const replays = useStanding(desk, (s) => s?.replays ?? false);
  const { show } = open;
  const { tell, save, replay, read } = useRecordOf(id, desk, open);
  const close = (): void => {
    setAnchor(null);
  };
  const choose = (): void => {
    chooser.current!.click();
  };
  return (
    <>
      <Button
        aria-haspopup="menu"
        color="inherit"
        endIcon={<ChevronDown size={14} />}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        {replays ? 'Seen again' : 'Night'}
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={close}>
        <Item
          disabled={!there || replays}
          close={close}
          act={() => {
            desk.do({ do: 'anew' });
          }}
        >
          Begin anew
        </Item>
        <Item
          disabled={!there}
          close={close}
          act={() => {
            desk.do({ do: 'outside', on: outside === 'off' });
          }}
        >
          {outside === 'off' ? 'Listen to the outside' : 'Do not listen to the outside'}
        </Item>
        {show.wall && (
          <Item
            disabled={!there}
            close={close}
            act={() => {
              desk.do({ do: 'wall', on: wall === 'off' });
            }}
          >
            {wall === 'off' ? 'Show it on the wall' : 'Do not show it on the wall'}
          </Item>
        )}
        <Item
          disabled={!there}
          close={close}
          act={() => {
            if (replays) desk.do({ do: 'anew' });
            else void rowsOf(id).then(replay, tell);
          }}
        >
          {replays ? 'End seeing it again' : 'See it again'}
        </Item>
        <Item close={close} act={() => void save().catch(tell)}>
          Save what happened (CSV)
        </Item>
        <Item disabled={!there} close={close} act={choose}>
          See a saved one again…
        </Item>
        <Item close={close} act={() => void exportShow(show).catch(tell)}>
          Export the show
        </Item>
      </Menu>
      <FileChooser
        ref={chooser}
        label="Table of a night"
        accept=".csv,text/csv"
        onChoose={([file]) => {
          void read(file);
        }}
      />
    </>
  );
}

interface ItemProps {
  disabled?: boolean;
  close: () => void;
  act: () => void;
  children: string;
}

function Item({ disabled = false, close, act, children }: ItemProps) {
  return (
    <MenuItem
      disabled={disabled}
      onClick={() => {
        close();
        act();
      }}
    >
      {children}
    </MenuItem>
  );
}
