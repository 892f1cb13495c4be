import { InputError } from '@dial-shade/core';

/** What was found, or the sentence that refused it. */
export function refusing<T>(find: () => T): T | { refused: string } {
  try {
    return find();
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    return { refused: error.message };
  }
}
