import {
  type ComparedPlace,
  type Comparison,
  readMeasure,
  STUDY_KINDS,
  type StudyResult,
} from '@dial-shade/core';
import { Check, ChevronDown, ChevronUp, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { focusedView } from '../board/pane-registry';
import { IconButton } from '../app/objects';
import { setView, useView } from '../state/view-store';
import { measureOf } from './as-shown';

/** Height of a line, pixels: only what is in sight is drawn. */
const ROW = 26;
const SPARE = 6;

type Column = 'name' | 'before' | 'after' | 'difference' | 'ratio' | 'passes';
const COLUMNS: readonly { key: Column; name: string }[] = [
  { key: 'name', name: 'Place' },
  { key: 'before', name: 'Before' },
  { key: 'after', name: 'After' },
  { key: 'difference', name: 'Change' },
  { key: 'ratio', name: 'Ratio' },
  { key: 'passes', name: 'Passes' },
];

function sorted(places: readonly ComparedPlace[], by: Column, isDown: boolean): ComparedPlace[] {
  const way = isDown ? -1 : 1;
  return [...places].sort((a, b) => {
    if (by === 'name') return way * a.name.localeCompare(b.name, 'en', { numeric: true });
    const [x, y] = [Number(a[by]), Number(b[by])];
    return way * ((Number.isNaN(x) ? Infinity : x) - (Number.isNaN(y) ? Infinity : y));
  });
}

/** Every place before and after, beside the board: sorted, filtered, found on the model and from there. */
export function ComparisonPanel({
  comparison,
  after,
  onHide,
}: {
  comparison: Comparison;
  after: StudyResult;
  onHide: () => void;
}) {
  const [by, setBy] = useState<{ column: Column; isDown: boolean }>({ column: 'difference', isDown: false });
  const [words, setWords] = useState('');
  const [onlyFailing, setOnlyFailing] = useState(false);
  const { places, kind } = comparison;
  const rows = useMemo(() => {
    const wanted = words.trim().toLowerCase();
    return sorted(
      places.filter(({ name, passes }) => (!onlyFailing || !passes) && name.toLowerCase().includes(wanted)),
      by.column,
      by.isDown,
    );
  }, [places, by, words, onlyFailing]);
  const measure = measureOf(kind, comparison.measure);
  const host = document.querySelector('.board');
  if (!host) return null;
  return createPortal(
    <aside className="comparison" aria-label="Places before and after" data-testid="places">
      <header>
        <strong>{STUDY_KINDS[kind].name}</strong>
        <span className="visually-quiet flex-grow-1" title={measure.definition}>
          {measure.label}, {measure.unit}
        </span>
        <IconButton icon={X} label="Close the places" onClick={onHide} />
      </header>
      <div className="d-flex gap-2 align-items-center mb-1">
        <input
          className="form-control"
          placeholder="Filter by name"
          aria-label="Filter by name"
          value={words}
          onChange={({ target }) => setWords(target.value)}
        />
        <label className="text-nowrap">
          <input type="checkbox" checked={onlyFailing} onChange={() => setOnlyFailing(!onlyFailing)} />{' '}
          Failing only
        </label>
        <span className="visually-quiet text-nowrap">
          {rows.length} of {places.length}
        </span>
      </div>
      <div className="place-row head" role="row">
        {COLUMNS.map(({ key, name }) => {
          const isBy = by.column === key;
          const Icon = by.isDown ? ChevronDown : ChevronUp;
          return (
            <button
              key={key}
              className="btn-bare"
              aria-pressed={isBy}
              onClick={() => setBy({ column: key, isDown: isBy && !by.isDown })}
            >
              {name}
              {isBy && <Icon size={11} />}
            </button>
          );
        })}
      </div>
      <Rows rows={rows} comparison={comparison} after={after} />
    </aside>,
    host,
  );
}

/** The lines that are in sight. */
function Rows({
  rows,
  comparison,
  after,
}: {
  rows: readonly ComparedPlace[];
  comparison: Comparison;
  after: StudyResult;
}) {
  const box = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  const [height, setHeight] = useState(400);
  const chosen = useView((view) => view.place);
  const first = Math.max(0, Math.floor(top / ROW) - SPARE);
  const count = Math.ceil(height / ROW) + 2 * SPARE;
  const measure = measureOf(comparison.kind, comparison.measure);
  const read = (value: number) => readMeasure(measure, value).replace('-', '−');
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setHeight(entry!.contentRect.height));
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  // Chosen on the model: brought into sight.
  useEffect(() => {
    const at = rows.findIndex(({ id }) => id === chosen);
    const element = box.current;
    if (at < 0 || !element) return;
    if (at * ROW < element.scrollTop || (at + 1) * ROW > element.scrollTop + element.clientHeight)
      element.scrollTop = at * ROW - element.clientHeight / 2;
  }, [chosen, rows]);
  return (
    <div className="place-rows" ref={box} onScroll={({ currentTarget }) => setTop(currentTarget.scrollTop)}>
      <div style={{ height: rows.length * ROW, position: 'relative' }}>
        {rows.slice(first, first + count).map((place, i) => (
          <button
            key={place.id}
            className={`place-row${place.id === chosen ? ' chosen' : ''}`}
            style={{ top: (first + i) * ROW }}
            title={place.name}
            onClick={() => pointAt(place.id, after)}
          >
            <span>{place.name}</span>
            <span>{read(place.before)}</span>
            <span>{read(place.after)}</span>
            <span>{read(place.difference)}</span>
            <span>{Number.isNaN(place.ratio) ? '–' : place.ratio.toFixed(2)}</span>
            <span className={place.passes ? 'passes' : 'fails'}>
              {place.passes ? <Check size={13} aria-label="passes" /> : <X size={13} aria-label="fails" />}{' '}
              {place.grade}
            </span>
          </button>
        ))}
      </div>
    </div>
  );
}

/** Marks a place and turns the view to it. */
function pointAt(id: string, { grid, targets }: StudyResult): void {
  setView({ place: id });
  const target = targets.findIndex((one) => one.id === id);
  const own = Array.from(grid.target.keys()).filter((i) => grid.target[i] === target);
  const three = (from: Float64Array) =>
    Float64Array.from(own.flatMap((i) => [from[i * 3]!, from[i * 3 + 1]!, from[i * 3 + 2]!]));
  focusedView()?.lookAtPlaces(three(grid.positions), three(grid.normals));
}
