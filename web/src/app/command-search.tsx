import { useMemo, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { commands } from './commands';
import { useDialogs } from './dialogs';

/** Reaches every command by a few letters of its name. */
export function CommandSearch() {
  const open = useDialogs((state) => state.search);
  return (
    <Modal
      show={open}
      onHide={() => useDialogs.setState({ search: false })}
      animation={false}
      aria-label="Search commands"
    >
      {open && <SearchBody />}
    </Modal>
  );
}

function SearchBody() {
  const navigate = useNavigate();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const all = useMemo(
    () => commands((stage) => void navigate({ pathname: stage, search: window.location.search })),
    [navigate],
  );
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all.filter(({ name, where }) =>
    words.every((word) => `${name} ${where}`.toLowerCase().includes(word)),
  );
  const run = (index: number) => {
    const command = found[index];
    if (!command) return;
    useDialogs.setState({ search: false });
    command.run();
  };
  return (
    <Modal.Body>
      <input
        autoFocus
        className="form-control mb-2"
        aria-label="Command"
        placeholder="What do you want to do?"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(found.length - 1, at + 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(0, at - 1));
          else if (event.key === 'Enter') run(at);
          else return;
          event.preventDefault();
        }}
      />
      <div className="search-list" role="listbox" aria-label="Commands">
        {found.map((command, i) => (
          <button
            key={command.name}
            role="option"
            aria-selected={i === at}
            onClick={() => run(i)}
            onMouseEnter={() => setAt(i)}
          >
            <span>{command.name}</span>
            <span className="where">
              {command.where} {command.keys && <kbd>{command.keys}</kbd>}
            </span>
          </button>
        ))}
        {found.length === 0 && <p className="visually-quiet m-2">No command has these letters.</p>}
      </div>
    </Modal.Body>
  );
}
