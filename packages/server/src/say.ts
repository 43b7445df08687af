/**
 * Text for the terminal. Names come from files of others: what would steer the terminal is shown as a code
 * instead of being sent to it.
 */
export function printable(text: string): string {
  return text.replace(STEERING, (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`);
}

/** Control characters (Unicode, category Cc) but tab and line feed, and the marks that turn the direction of text. */
const STEERING = /(?![\t\n])[\p{Cc}\u202a-\u202e\u2066-\u2069]/gu;

/** Prints a result that was asked for. */
export function say(text: string): void {
  process.stdout.write(`${printable(text)}\n`);
}

/** Prints notes beside it, and errors. */
export function tell(text: string): void {
  process.stderr.write(`${printable(text)}\n`);
}

let stays = false;

/** Nobody reads on, as behind `| head`: no reason to complain, and none to go on. */
export function endWithReader(): void {
  for (const stream of [process.stdout, process.stderr]) {
    stream.on('error', (error: NodeJS.ErrnoException) => {
      if (stays) return;
      if (error.code !== 'EPIPE') throw error;
      process.exit(0);
    });
  }
}

/**
 * For what others depend on: it goes on without a terminal, and past an error that nobody has heard, which is told. Only
 * what was at work on it is lost.
 */
export function goOnWhateverComes(): void {
  stays = true;
  const told = (error: unknown): void => {
    const words = error instanceof Error ? (error.stack ?? error.message) : String(error);
    tell(`Something went wrong, and the program goes on; please tell its makers. ${words}`);
  };
  process.on('uncaughtException', told);
  process.on('unhandledRejection', told);
}
