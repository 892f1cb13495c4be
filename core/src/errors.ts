/**
 * The one kind of error that is meant for the user: its message names the thing, the value and the remedy.
 * `code` is stable and machine-readable; `problems` lists every fault when there are several.
 */
export class InputError extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly problems: readonly string[] = [message],
  ) {
    super(message);
    this.name = 'InputError';
  }
}

/** Thrown when long work was asked to stop. */
export class Stopped extends Error {
  constructor() {
    super('Stopped on request.');
    this.name = 'Stopped';
  }
}
