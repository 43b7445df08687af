/** Takes files in, by what is loaded for it: readers of all kinds. */
export async function takeFiles(files: Iterable<File>): Promise<void> {
  const taken = [...files];
  await (await import('./takeFiles')).takeFiles(taken);
}

/**
 * Takes in what is dropped anywhere that does not take it itself: the browser would leave the application and show
 * the file instead. Gives what ends it.
 */
export function takeDrops(): () => void {
  const hold = (event: DragEvent): void => {
    if (event.dataTransfer?.types.includes('Files')) event.preventDefault();
  };
  const drop = (event: DragEvent): void => {
    const files = [...(event.dataTransfer?.files ?? [])];
    if (event.defaultPrevented || files.length === 0) return;
    event.preventDefault();
    void takeFiles(files);
  };
  window.addEventListener('dragover', hold);
  window.addEventListener('drop', drop);
  return () => {
    window.removeEventListener('dragover', hold);
    window.removeEventListener('drop', drop);
  };
}
