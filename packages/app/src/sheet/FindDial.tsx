import { Autocomplete, Button, InputBase, Stack } from '@mui/material';
import { Search } from 'lucide-react';
import { memo, useState } from 'react';
import { pieceActions } from '../store/pieceSlice';
import { store, useApp, useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { COLOURS } from '../ui/theme';
import { everyDial, FIND_DIAL, findDials, type FoundDial } from './findDials';

const WHERE = { color: COLOURS.faint, fontSize: 12 };

/** Finds a dial of whatever part by its name, and goes there; and shows those alone that have been changed. */
export const FindDial = memo(function FindDial() {
  const dispatch = useAppDispatch();
  const changed = useApp((s) => s.tools.changedOnly);
  return (
    <Stack
      direction="row"
      sx={{
        position: 'sticky',
        top: 0,
        zIndex: 2,
        bgcolor: COLOURS.sheet,
        alignItems: 'center',
        gap: 1,
        pt: 0.75,
        pb: 0.25,
      }}
    >
      <Field />
      <Button
        size="small"
        aria-pressed={changed}
        title="Only dials that differ from what they began with"
        onClick={() => dispatch(toolActions.changedOnlySet(!changed))}
        sx={{
          fontSize: 12,
          whiteSpace: 'nowrap',
          flexShrink: 0,
          color: changed ? COLOURS.amber : COLOURS.faint,
        }}
      >
        Changed only
      </Button>
    </Stack>
  );
});

function Field() {
  const dispatch = useAppDispatch();
  const [text, setText] = useState('');
  const [all, setAll] = useState<readonly FoundDial[]>([]);
  const go = (dial: FoundDial): void => {
    dispatch(pieceActions.selected(dial.selection));
    dispatch(toolActions.dialLit({ path: dial.path.join('.'), group: dial.group }));
    setText('');
    // The keys are for the dial from here on.
    (document.activeElement as HTMLElement | null)?.blur();
  };
  return (
    <Autocomplete
      fullWidth
      autoHighlight
      clearOnBlur
      blurOnSelect
      value={null}
      inputValue={text}
      open={text.trim() !== ''}
      options={findDials(all, text)}
      filterOptions={(options) => options}
      getOptionKey={(dial) => dial.path.join('.')}
      getOptionLabel={(dial) => dial.title}
      noOptionsText="No dial of that name"
      forcePopupIcon={false}
      onInputChange={(_, typed, reason) => {
        if (reason === 'input') setText(typed);
        else if (reason !== 'reset') setText('');
      }}
      onFocus={() => {
        setAll(everyDial(store.getState().piece.piece!));
      }}
      onChange={(_, dial) => {
        if (dial) go(dial);
      }}
      slotProps={{ listbox: { sx: { fontSize: 13, maxHeight: 420 } } }}
      renderOption={({ key, ...props }, dial) => (
        <li key={key} {...props}>
          <span style={{ flex: 1 }}>{dial.title}</span>
          <span style={WHERE}>
            {dial.part} · {dial.group}
          </span>
        </li>
      )}
      renderInput={({ slotProps }) => (
        <InputBase
          ref={slotProps.input.ref}
          startAdornment={<Search size={13} aria-hidden style={{ marginRight: 6 }} />}
          placeholder="Find a dial ( / )"
          inputProps={{ ...slotProps.htmlInput, id: FIND_DIAL, 'aria-label': 'Find a dial' }}
          sx={{ fontSize: 13, borderBottom: `1px solid ${COLOURS.line}` }}
          fullWidth
        />
      )}
    />
  );
}
