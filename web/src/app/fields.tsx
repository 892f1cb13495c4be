import { formatClock, formatLength, parseLength } from '@dial-shade/core';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { type ReactNode, useId, useState } from 'react';
import { foldSection, useLayout } from '../state/layout-store';
import { useDocument } from '../state/project-store';

interface FieldProps {
  label: string;
  value: string;
  unit?: string;
  /** Takes what was typed; a sentence when it cannot be. */
  commit: (text: string) => string | null;
  type?: 'text' | 'date';
  list?: string;
  placeholder?: string;
}

/** A labelled text field that is taken on Enter or on leaving it; Escape puts the old value back. */
export function TextField({ label, value, unit, commit, type = 'text', list, placeholder }: FieldProps) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const take = () => {
    if (typed === null || typed === value) {
      setTyped(null);
      setWrong(null);
      return;
    }
    const refused = commit(typed);
    setWrong(refused);
    if (refused === null) setTyped(null);
  };
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      <div className="with-unit">
        <input
          id={id}
          type={type}
          className={`form-control${wrong ? ' is-invalid' : ''}`}
          value={typed ?? value}
          list={list}
          placeholder={placeholder}
          aria-invalid={wrong !== null}
          aria-describedby={wrong ? `${id}-wrong` : undefined}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => {
            if (event.key === 'Enter') take();
            if (event.key === 'Escape') {
              setTyped(null);
              setWrong(null);
            }
          }}
        />
        {unit && <span className="unit">{unit}</span>}
      </div>
      {wrong && (
        <span className="wrong" id={`${id}-wrong`} role="alert">
          {wrong}
        </span>
      )}
    </div>
  );
}

interface NumberProps {
  label: string;
  value: number;
  unit?: string;
  digits?: number;
  commit: (value: number) => string | null;
}

/** A labelled number. */
export function NumberField({ label, value, unit, digits = 3, commit }: NumberProps) {
  return (
    <TextField
      label={label}
      unit={unit}
      value={String(Number(value.toFixed(digits)))}
      commit={(text) => {
        const typed = Number(text.trim().replace(',', '.').replace('−', '-'));
        if (text.trim() === '' || !Number.isFinite(typed)) return `“${text}” is not a number.`;
        return commit(typed);
      }}
    />
  );
}

/** A labelled length, typed and shown in the project's units. */
export function LengthField({ label, value, commit }: Omit<NumberProps, 'unit' | 'digits'>) {
  const { units } = useDocument();
  const shown = units === 'metric' ? String(Number(value.toFixed(3))) : formatLength(value, units);
  return (
    <TextField
      label={label}
      unit={units === 'metric' ? 'm' : undefined}
      value={shown}
      commit={(text) => {
        try {
          return commit(parseLength(text, units));
        } catch (error) {
          return (error as Error).message;
        }
      }}
    />
  );
}

/** A labelled clock time, minutes since midnight. */
export function ClockField({ label, value, commit }: Omit<NumberProps, 'unit' | 'digits'>) {
  return (
    <TextField
      label={label}
      value={formatClock(value)}
      commit={(text) => {
        const match = /^(\d{1,2})(?::(\d{2}))?$/.exec(text.trim());
        const minutes = match ? Number(match[1]) * 60 + Number(match[2] ?? 0) : NaN;
        return minutes <= 1440 ? commit(minutes) : `“${text}” is not a clock time; type for example 08:30.`;
      }}
    />
  );
}

/** A labelled choice. */
export function ChoiceField<T extends string>({
  label,
  value,
  choices,
  commit,
  wide = false,
}: {
  label: string;
  value: T;
  choices: readonly { value: T; name: string }[];
  commit: (value: T) => void;
  /** With long names: the label takes no more than it needs. */
  wide?: boolean;
}) {
  const id = useId();
  return (
    <div className={wide ? 'field wide' : 'field'}>
      <label htmlFor={id}>{label}</label>
      <select
        id={id}
        className="form-select"
        value={value}
        onChange={(event) => commit(event.target.value as T)}
      >
        {choices.map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.name}
          </option>
        ))}
      </select>
    </div>
  );
}

/** A part of a sheet under a heading. It folds, and is remembered folded by its name (its title unless given). */
export function Section({
  title,
  name = title,
  children,
  aside,
}: {
  title: string;
  name?: string;
  children: ReactNode;
  aside?: ReactNode;
}) {
  const id = useId();
  const isFolded = useLayout((layout) => layout.foldedSections[name] ?? false);
  const Icon = isFolded ? ChevronRight : ChevronDown;
  return (
    <section>
      <h2>
        <button
          className="btn-bare fold"
          aria-label={isFolded ? 'Unfold' : 'Fold'}
          aria-describedby={id}
          aria-expanded={!isFolded}
          onClick={() => foldSection(name, !isFolded)}
        >
          <Icon size={13} />
        </button>
        <span id={id} className="flex-grow-1" onClick={() => foldSection(name, !isFolded)}>
          {title}
        </span>
        {aside}
      </h2>
      {!isFolded && children}
    </section>
  );
}

/** A labelled choice of a file. What cannot be read is said below it. */
export function FileField({
  label,
  title,
  accept,
  wrong,
  read,
}: {
  label: string;
  title?: string;
  accept?: string;
  wrong: string | null;
  read: (file: File) => void;
}) {
  const id = useId();
  return (
    <div className="field">
      <label htmlFor={id} title={title}>
        {label}
      </label>
      <input
        id={id}
        type="file"
        accept={accept}
        className="form-control"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) read(file);
          event.target.value = '';
        }}
      />
      {wrong && (
        <span className="wrong" role="alert">
          {wrong}
        </span>
      )}
    </div>
  );
}

/** Something that is so or not. */
export function CheckField({
  label,
  checked,
  change,
  disabled = false,
}: {
  label: ReactNode;
  checked: boolean;
  change: (checked: boolean) => void;
  disabled?: boolean;
}) {
  return (
    <label className="d-flex gap-2 align-items-center mb-1">
      <input
        type="checkbox"
        checked={checked}
        disabled={disabled}
        onChange={({ target }) => change(target.checked)}
      />
      {label}
    </label>
  );
}

/** A labelled share, dragged or stepped by the arrow keys. `rest` is told when a drag or a step is over. */
export function ShareField({
  label,
  value,
  least = 0,
  change,
  rest,
}: {
  label: string;
  value: number;
  least?: number;
  change: (value: number) => void;
  rest?: () => void;
}) {
  const id = useId();
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        type="range"
        min={least}
        max={1}
        step={0.05}
        value={value}
        onChange={(event) => change(Number(event.target.value))}
        onPointerUp={rest}
        onKeyUp={rest}
      />
    </div>
  );
}
