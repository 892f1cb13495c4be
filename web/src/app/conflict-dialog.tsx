import { describePath } from '@dial-shade/core';
import { Modal } from 'react-bootstrap';
import { useProject } from '../state/project-store';
import { resolveConflicts, useConflicts } from '../state/saver';

/** Where two pages changed the same thing: which version is kept. Everything else is merged already. */
export function ConflictDialog() {
  const conflicts = useConflicts((state) => state.conflicts);
  const project = useProject((state) => state.project);
  return (
    <Modal
      show={conflicts.length > 0}
      backdrop="static"
      keyboard={false}
      animation={false}
      aria-labelledby="conflict-title"
    >
      <Modal.Header>
        <Modal.Title as="h2" id="conflict-title" className="h6">
          Changed here and on another page
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>Everything else has been merged. Which version of these is to be kept?</p>
        <ul>
          {conflicts.map((conflict) => (
            <li key={conflict.path.join('.')}>{placeInWords(project, conflict.path)}</li>
          ))}
        </ul>
      </Modal.Body>
      <Modal.Footer>
        <button className="btn btn-quiet" onClick={() => resolveConflicts('theirs')}>
          Take the other page’s
        </button>
        <button className="btn btn-sunlit" onClick={() => resolveConflicts('mine')} autoFocus>
          Keep mine
        </button>
      </Modal.Footer>
    </Modal>
  );
}

/** A path whose list steps are ids, in words. */
function placeInWords(project: unknown, path: (string | number)[]): string {
  let value = project;
  const steps = path.map((step) => {
    if (Array.isArray(value)) {
      const at = (value as { id: string }[]).findIndex((item) => item.id === step);
      value = (value as unknown[])[at];
      return at;
    }
    value = (value as Record<string, unknown> | undefined)?.[step];
    return step;
  });
  const last = String(path.filter((step) => typeof step === 'string').at(-1));
  const words = describePath(project, steps);
  return words ? `${words}: ${last}` : path.join(', ');
}
