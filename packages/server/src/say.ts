/**
 * What is told on the terminal. Names come from files of others: what would steer the terminal is shown as a code
 * instead of being sent to it.
 */
export function printable(text: string): string {
  return text.replace(
    /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]/g,
    (c) => {
      return `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`;
    },
  );
}

/** What was asked for. */
export function say(text: string): void {
  process.stdout.write(`${printable(text)}\n`);
}

/** What is noted beside it, and what is wrong. */
export function tell(text: string): void {
  process.stderr.write(`${printable(text)}\n`);
}

/** Nobody reads on, as behind `| head`: no reason to complain, and none to go on. */
export function endWithReader(): void {
  for (const stream of [process.stdout, process.stderr]) {
    stream.on('error', (error: NodeJS.ErrnoException) => {
      if (error.code !== 'EPIPE') throw error;
      process.exit(0);
    });
  }
}
