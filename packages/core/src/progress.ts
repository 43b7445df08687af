/**
 * Hears that long work of this thread goes on.
 *
 * @param what is being made, in words; empty where it may not be ended on its way, as a frame
 * @param part of it that is done, 0 to 1
 * @param quiet seconds that may pass before the next word, where that cannot be helped
 * @throws anything, to end work that has a name
 */
export type ProgressListener = (what: string, part: number, quiet: number) => void;

let hear: ProgressListener = () => undefined;

/** Has somebody hear of all long work of this thread: to show how far it is, to tell it from a loop, or to end it. */
export function onProgress(heard: ProgressListener): void {
  hear = heard;
}

/** Reports progress; long work calls it ten times a second or more. See ProgressListener. */
export function reportProgress(what = '', part = 0, quiet = 0): void {
  hear(what, part, quiet);
}
