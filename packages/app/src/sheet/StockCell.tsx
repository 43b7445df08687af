import { Box, Button, Divider, MenuItem, Select } from '@mui/material';
import { useRef } from 'react';
import { standsInSpace } from '@vast-swarm/core/stock';
import { entryOf } from '../data/chosen';
import { areFrames, framesFile } from '../data/frames';
import { importStock, STOCK_ACCEPT, typesOf } from '../data/stock';
import { noticed } from '../store/noticeSlice';
import { useApp, useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { FileChooser } from '../ui/FileChooser';
import { Fitting } from './Fitting';
import { useStockChoices, type StockChoosing } from './useStockChoices';
import { WordsBox } from './WordsBox';

/** A thing of the stock: of this piece, of the browser, made by code, drawn, or from a file. */
export function StockCell(props: StockChoosing) {
  const { spec, value, path } = props;
  const dispatch = useAppDispatch();
  const tool = useApp((s) => s.tools.tool);
  const chooser = useRef<HTMLInputElement>(null);
  const { accepts, choices, put } = useStockChoices(props);
  const chosen = useApp((s) => s.piece.piece!.stock.find((e) => e.id === value));
  const shown: string = `entry:${value}`;
  const all = choices.flat();
  const drawing = tool?.kind === 'pen' && tool.path.join('.') === path.join('.');
  const take = async (files: readonly [File, ...File[]]): Promise<void> => {
    try {
      // Several pictures at once are the frames of a clip.
      const file = areFrames(files) ? await framesFile(files) : files[0];
      const item = await importStock(file);
      const type = typesOf(item).find((t) => accepts.includes(t));
      if (!type) {
        const message = `${file.name} is a ${item.type} and is in the stock now; this dial wants a ${spec.accepts.join(' or ')}.`;
        dispatch(noticed({ key: 'stock', kind: 'note', message }));
        return;
      }
      put(entryOf(item, type), type);
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      dispatch(noticed({ key: 'stock', kind: 'wrong', message }));
    }
  };
  const fromFile = (): void => {
    chooser.current!.click();
  };
  const pen = (): void => {
    dispatch(toolActions.toolChosen({ kind: 'pen', path }));
  };
  return (
    <Box>
      <Select
        variant="standard"
        disableUnderline
        displayEmpty
        value={shown}
        onChange={({ target: { value: key } }) => {
          if (key === 'file:') fromFile();
          else if (key === 'pen:') pen();
          else all.find((c) => c.key === key)!.choose();
        }}
        inputProps={{ 'aria-label': spec.title }}
        sx={{ fontSize: 13, maxWidth: 220, '& .MuiSelect-select': { py: '1px' } }}
      >
        {choices.flatMap((group, i) => [
          ...(i > 0 ? [<Divider key={`group ${String(i)}`} />] : []),
          ...group.map(({ key, title }) => (
            <MenuItem key={`${key} ${title}`} value={key}>
              {title}
            </MenuItem>
          )),
        ])}
        {spec.accepts.includes('outline') && <MenuItem value="pen:">Draw with the pen</MenuItem>}
        <MenuItem value="file:">From a file…</MenuItem>
      </Select>
      {!value && !drawing && spec.group === 'Dials' && (
        <Button
          variant="outlined"
          size="small"
          aria-label={`Take ${spec.title} from a file`}
          onClick={fromFile}
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
