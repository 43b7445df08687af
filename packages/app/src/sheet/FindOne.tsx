import { Button } from '@mui/material';
import { Search } from 'lucide-react';
import { goToFindDial } from './findDials';

/** Goes to the field that finds a dial, where a dial is what is missing. */
export function FindOne({ what }: { what: string }) {
  return (
    <Button size="small" variant="outlined" startIcon={<Search size={13} />} onClick={goToFindDial}>
      {what}
    </Button>
  );
}
