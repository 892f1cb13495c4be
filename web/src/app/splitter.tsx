import { type CSSProperties, type KeyboardEvent, type PointerEvent, useRef } from 'react';

/** A line between two parts of the frame that is dragged, or moved by the arrow keys. */
export function Splitter({
  label,
  className,
  axis,
  value,
  least,
  most,
  move,
  style,
}: {
  label: string;
  className: string;
  /** The way it is dragged. */
  axis: 'x' | 'y';
  /** Where it is now, and how far it goes, CSS pixels. */
  value: number;
  least: number;
  most: number;
  /** Takes where it is to be. */
  move: (value: number) => void;
  style?: CSSProperties;
}) {
  const held = useRef<{ from: number; value: number } | null>(null);
  // What is measured from the foot grows upwards.
  const way = axis === 'x' ? 1 : -1;
  const at = (event: PointerEvent) => (axis === 'x' ? event.clientX : event.clientY);
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowRight: 12, ArrowUp: 12, ArrowLeft: -12, ArrowDown: -12 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    move(value + step);
  };
  return (
    <div
      role="separator"
      tabIndex={0}
      aria-label={label}
      aria-orientation={axis === 'x' ? 'vertical' : 'horizontal'}
      aria-valuenow={value}
      aria-valuemin={least}
      aria-valuemax={most}
      className={`splitter ${className}`}
      style={style}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = { from: at(event), value };
      }}
      onPointerMove={(event) => {
        if (held.current) move(held.current.value + (at(event) - held.current.from) * way);
      }}
      onPointerUp={() => (held.current = null)}
      onPointerCancel={() => (held.current = null)}
      onKeyDown={onKey}
    />
  );
}
