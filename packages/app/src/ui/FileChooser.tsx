import type { Ref } from 'react';

interface Props {
  ref: Ref<HTMLInputElement>;
  label: string;
  /** Endings and types, as an input of HTML has them; a folder is chosen where nothing is said. */
  accept?: string;
  multiple?: boolean;
  /** Files that were chosen, one at the least. */
  onChoose: (files: [File, ...File[]]) => void;
}

/** Chooses files when something else clicks it: it is not seen itself, and the same file can be chosen again. */
export function FileChooser({ ref, label, accept, multiple = false, onChoose }: Props) {
  // What is not of React's own has its own name.
  const what = accept === undefined ? { webkitdirectory: '' } : { accept };
  return (
    <input
      ref={ref}
      type="file"
      hidden
      {...what}
      multiple={multiple}
      aria-label={label}
      onChange={({ target }) => {
        const [first, ...more] = target.files ?? [];
        target.value = '';
        if (first) onChoose([first, ...more]);
      }}
    />
  );
}
