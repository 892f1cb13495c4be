import { MAX_DEPTH, MAX_LISTS, MAX_OBJECTS, OVER_BUDGET } from './budget';

const QUOTE = 0x22;
const COMMA = 0x2c;
const MINUS = 0x2d;
const ZERO = 0x30;
const NINE = 0x39;
const BACKSLASH = 0x5c;
const [BRACKET, BRACKET_END] = [0x5b, 0x5d];
const [BRACE, BRACE_END] = [0x7b, 0x7d];

/** Levels that what a document is sent in may add to its own. */
const WRAPPED = 2;
/** Values that a JSON text may hold. */
const MAX_VALUES = 30_000_000;

/** Why a JSON text is not read on: `project` where it is no document, `too-large` where it is only too long. */
export interface ScanProblem {
  code: 'project' | 'too-large';
  message: string;
}

/**
 * Looks through a JSON text while it comes in, as bytes of UTF-8 in pieces, and tells as soon as it is over the budget of a
 * document: what is refused is never parsed. The text need not be JSON; what is inside strings counts for nothing.
 */
export class JsonScan {
  private depth = 0;
  private objects = 0;
  private lists = 0;
  private values = 0;
  private isInString = false;
  private isEscaped = false;
  /** After a bracket: whether a number comes first is not known yet. */
  private isOpened = false;

  /** Looks at the next bytes. Gives what is wrong with all so far, or null. */
  take(bytes: Uint8Array): ScanProblem | null {
    for (let i = 0; i < bytes.length; i++) {
      const byte = bytes[i]!;
      if (this.isInString) {
        if (this.isEscaped) this.isEscaped = false;
        else if (byte === BACKSLASH) this.isEscaped = true;
        else if (byte === QUOTE) this.isInString = false;
        continue;
      }
      // Blanks.
      if (byte <= 0x20) continue;
      if (this.isOpened) {
        this.isOpened = false;
        if (byte !== MINUS && (byte < ZERO || byte > NINE)) this.lists++;
      }
      if (byte === QUOTE) this.isInString = true;
      else if (byte === COMMA) this.values++;
      else if (byte === BRACKET || byte === BRACE) {
        this.values++;
        this.depth++;
        if (byte === BRACE) this.objects++;
        else this.isOpened = true;
        if (this.depth > MAX_DEPTH + 1 + WRAPPED) return { code: 'project', message: OVER_BUDGET.depth };
      } else if (byte === BRACKET_END || byte === BRACE_END) this.depth--;
    }
    if (this.objects > MAX_OBJECTS + WRAPPED) return { code: 'project', message: OVER_BUDGET.objects };
    if (this.lists > MAX_LISTS + WRAPPED) return { code: 'project', message: OVER_BUDGET.lists };
    if (this.values > MAX_VALUES)
      return {
        code: 'too-large',
        message: `The request holds more than ${MAX_VALUES.toLocaleString('en')} values; leave out what is far from the site.`,
      };
    return null;
  }
}
