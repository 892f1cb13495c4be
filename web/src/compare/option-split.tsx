import { TODAY } from '@dial-shade/core';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { ChoiceField } from '../app/fields';
import { useDocument } from '../state/project-store';
import { optionsInOrder, useView } from '../state/view-store';
import { useCompare } from './compare-store';
import { useOptionPictures } from './option-pictures';

/** How far a key moves the divider. */
const STEP = 0.02;

/** Two options in one picture from where the board looks, at its moment, with a divider that is dragged across. */
export function OptionSplit() {
  const project = useDocument();
  const all = optionsInOrder(project);
  const { left, right, divider } = useCompare();
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const find = (id: string | null, otherwise: number) =>
    all.find((one) => one.id === id) ?? all[Math.min(otherwise, all.length - 1)]!;
  const [a, b] = [find(left, 0), find(right, all.length > 2 ? 1 : all.findIndex(({ id }) => id === TODAY))];
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width: Math.round(width), height: Math.round(height) });
    });
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  const urls = useOptionPictures(
    [
      { optionId: a.id, date, minutes },
      { optionId: b.id, date, minutes },
    ],
    size.width,
    size.height,
  );
  const put = (share: number) => useCompare.setState({ divider: Math.max(0, Math.min(1, share)) });
  const drag = (event: PointerEvent) => {
    if (event.buttons !== 1) return;
    const { left: x0, width } = box.current!.getBoundingClientRect();
    put((event.clientX - x0) / width);
  };
  const choices = all.map(({ id, letter, name }) => ({ value: id, name: `${letter} ${name}` }));
  return (
    <aside className="compare-panel split" aria-label="Two options in one picture" data-testid="split">
      <div className="trade-fields">
        <ChoiceField
          label="Left"
          value={a.id}
          choices={choices}
          commit={(id) => useCompare.setState({ left: id })}
        />
        <ChoiceField
          label="Right"
          value={b.id}
          choices={choices}
          commit={(id) => useCompare.setState({ right: id })}
        />
      </div>
      <div
        className="split-box"
        ref={box}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          drag(event);
        }}
        onPointerMove={drag}
      >
        {urls[1] && <img src={urls[1]} alt={`${b.name}`} draggable={false} />}
        {urls[0] && (
          <img
            src={urls[0]}
            alt={`${a.name}`}
            draggable={false}
            style={{ clipPath: `inset(0 ${(1 - divider) * 100}% 0 0)` }}
          />
        )}
        {!urls[0] && <p className="visually-quiet waiting">Drawing both …</p>}
        <Divider at={divider} put={put} />
        <span className="split-name left">
          {a.letter} {a.name}
        </span>
        <span className="split-name right">
          {b.letter} {b.name}
        </span>
      </div>
    </aside>
  );
}

/** The line between the two, moved by keys too. */
function Divider({ at, put }: { at: number; put: (share: number) => void }) {
  return (
    <div
      className="split-line"
      role="slider"
      tabIndex={0}
      aria-label="Divider between the two options"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(at * 100)}
      style={{ left: `${at * 100}%` }}
      onKeyDown={(event) => {
        if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
        event.preventDefault();
        event.stopPropagation();
        put(at + (event.key === 'ArrowLeft' ? -STEP : STEP));
      }}
    />
  );
}
