import { Button } from '@mui/material';
import { useState } from 'react';
import { fileNameOf } from '@vast-swarm/core/formats';
import type { Motion } from '@vast-swarm/core/stock';
import { saveAs } from '../data/files';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { motionFile } from '../reading/motionFile';

/** Saves a motion in a form that others read. */
export function SaveMotion({ name, motion }: { name: string; motion: Motion }) {
  const dispatch = useAppDispatch();
  const [saving, setSaving] = useState(false);
  const save = async (form: 'csv' | 'bvh'): Promise<void> => {
    setSaving(true);
    try {
      const file = await motionFile(fileNameOf(name), motion, form);
      saveAs(file, file.name);
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      const message = `${name} cannot be saved (${why}).`;
      dispatch(noticed({ key: 'motion', kind: 'wrong', message }));
    }
    setSaving(false);
  };
  return (['bvh', 'csv'] as const).map((form) => (
    <Button
      key={form}
      disabled={saving}
      onClick={() => void save(form)}
      aria-label={`Save ${name} as ${form.toUpperCase()}`}
      sx={{ minWidth: 0, px: 0.75, py: 0, fontSize: 11.5 }}
    >
      {form.toUpperCase()}
    </Button>
  ));
}
