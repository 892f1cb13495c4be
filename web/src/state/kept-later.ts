/** Where what is still to be kept is written down, for as long as the tab lives. */
const KEY = 'dial-shade:kept-later';

interface Asked {
  project: string;
  study: string;
  option: string;
}

function read(): Asked[] {
  try {
    const found: unknown = JSON.parse(sessionStorage.getItem(KEY) ?? '[]');
    return Array.isArray(found) ? (found as Asked[]) : [];
  } catch {
    return [];
  }
}

function write(asked: readonly Asked[]): void {
  try {
    sessionStorage.setItem(KEY, JSON.stringify(asked));
  } catch {
    // Without room a page that is left at this instant forgets; nothing else depends on it.
  }
}

const isSame = (a: Asked, b: Asked) =>
  a.project === b.project && a.study === b.study && a.option === b.option;

/**
 * Runs that were asked for while their document was still being saved: a page that is reloaded in that instant asks for
 * them again.
 */
export const keptLater = {
  of: (project: string): Asked[] => read().filter((one) => one.project === project),
  add(project: string, study: string, option: string): void {
    const one = { project, study, option };
    write([...read().filter((other) => !isSame(other, one)), one]);
  },
  remove(project: string, study: string, option: string): void {
    const one = { project, study, option };
    write(read().filter((other) => !isSame(other, one)));
  },
};
