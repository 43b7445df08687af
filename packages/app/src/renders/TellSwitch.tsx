import { FormControlLabel, Switch } from '@mui/material';
import { useState } from 'react';

/** Whether the browser says that a render is done while the artist looks elsewhere. */
export function TellSwitch() {
  const known = 'Notification' in window;
  const [allowed, setAllowed] = useState(() => (known ? Notification.permission : 'denied'));
  if (!known) return null;
  const label =
    allowed === 'denied'
      ? 'The browser may not tell when one is done'
      : 'Tell me when one is done, also behind other windows';
  return (
    <FormControlLabel
      sx={{ ml: -0.5 }}
      control={
        <Switch
          size="small"
          checked={allowed === 'granted'}
          disabled={allowed !== 'default'}
          onChange={() => {
            void Notification.requestPermission().then(setAllowed);
          }}
        />
      }
      label={label}
    />
  );
}
