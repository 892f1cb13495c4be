import { KIND_COLOURS, KIND_NAMES } from '../theme/palette';

/** What the colours mean while faces are coloured by kind. */
export function KindLegend() {
  return (
    <ul className="kind-legend" aria-label="Kinds of face">
      {KIND_NAMES.map(([kind, name]) => (
        <li key={kind}>
          <span style={{ background: KIND_COLOURS[kind] }} />
          {name}
        </li>
      ))}
    </ul>
  );
}
