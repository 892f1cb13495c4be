import { Modal } from 'react-bootstrap';
import { commands } from './commands';
import { useDialogs } from './dialogs';

const POINTER: [string, string][] = [
  ['Drag', 'Turn the view'],
  ['Shift drag, or right button', 'Slide the view'],
  ['Wheel', 'Closer and farther'],
  ['Click', 'Choose a building or a face; plant a probe on a result'],
  ['← →', 'A day earlier or later; with Shift a week'],
  ['↑ ↓', 'Ten minutes earlier or later; with Shift an hour'],
  ['Esc', 'End drawing, choose nothing'],
  ['Ctrl K', 'Search commands'],
];

/** The list of keys. */
export function KeysHelp() {
  const open = useDialogs((state) => state.keys);
  const keyed = open ? commands(() => {}).filter((command) => command.keys) : [];
  return (
    <Modal
      show={open}
      onHide={() => useDialogs.setState({ keys: false })}
      animation={false}
      size="lg"
      aria-labelledby="keys-title"
    >
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="keys-title" className="h6">
          Keys and pointer
        </Modal.Title>
      </Modal.Header>
      <Modal.Body style={{ columns: 2, columnGap: '2rem' }}>
        {[...POINTER, ...keyed.map(({ keys, name }): [string, string] => [keys!, name])].map(
          ([keys, name]) => (
            <div
              key={keys + name}
              className="d-flex justify-content-between gap-2 mb-1"
              style={{ breakInside: 'avoid' }}
            >
              <span>{name}</span>
              <span className="text-nowrap">
                <kbd>{keys}</kbd>
              </span>
            </div>
          ),
        )}
      </Modal.Body>
    </Modal>
  );
}
