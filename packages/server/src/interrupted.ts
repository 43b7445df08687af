/** Codes of programs that are ended by a signal (POSIX.1, 2.8.2: 128 and its number). */
const SIGNALS = { SIGINT: 130, SIGTERM: 143 } as const;

/**
 * Ends work in order where the program is interrupted.
 *
 * @returns what is called when the work is done
 */
export function whenInterrupted(end: () => Promise<void>): () => void {
  const handlers = Object.entries(SIGNALS).map(([signal, code]) => {
    const handler = (): void => {
      void end().finally(() => process.exit(code));
    };
    process.once(signal, handler);
    return [signal, handler] as const;
  });
  return () => {
    for (const [signal, handler] of handlers) process.removeListener(signal, handler);
  };
}
