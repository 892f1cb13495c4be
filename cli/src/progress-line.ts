/** Not told more often, ms. */
const PAUSE_MS = 100;

/** A line that tells how far work has come. */
export interface ProgressLine {
  /** @param share 0 to 1 */
  tell: (share: number) => void;
  /** Takes the line away. */
  end: () => void;
}

/**
 * Tells on a terminal what is being done and how far it is, on one line of its own that goes when the work is over; says
 * nothing where the output is no terminal, so that files and pipes hold only what is documented.
 */
export function progressLine(
  what: string,
  terminal: Pick<NodeJS.WriteStream, 'isTTY' | 'write'> = process.stderr,
): ProgressLine {
  if (!terminal.isTTY) return { tell: () => {}, end: () => {} };
  let told = -Infinity;
  const write = (text: string) => terminal.write(`\r\u001b[2K${text}`);
  write(`${what} …`);
  return {
    tell: (share) => {
      const now = performance.now();
      if (now - told < PAUSE_MS) return;
      told = now;
      write(`${what} … ${Math.floor(share * 100)} %`);
    },
    end: () => void write(''),
  };
}
