import type { LucideIcon } from 'lucide-react';
import type { ReactNode } from 'react';

/** A small button that is only an icon; `pressed` for those that stay down. */
export function IconButton({
  icon: Icon,
  label,
  onClick,
  pressed,
  disabled,
}: {
  icon: LucideIcon;
  label: string;
  onClick: () => void;
  pressed?: boolean;
  disabled?: boolean;
}) {
  return (
    <button
      className={`btn-bare${pressed ? ' pressed' : ''}`}
      title={label}
      aria-label={label}
      aria-pressed={pressed}
      disabled={disabled}
      onClick={onClick}
    >
      <Icon size={14} strokeWidth={1.8} />
    </button>
  );
}

/** One thing in a list: its name, a figure, and what can be done with it. */
export function ThingRow({
  name,
  figure,
  chosen,
  before,
  onChoose,
  children,
}: {
  name: ReactNode;
  figure?: string | undefined;
  chosen?: boolean;
  before?: ReactNode;
  onChoose?: (event: React.MouseEvent) => void;
  children?: ReactNode;
}) {
  return (
    <li className={chosen ? 'chosen' : ''}>
      {before}
      <button className="name" onClick={onChoose} aria-current={chosen || undefined}>
        {name}
      </button>
      {figure && <span className="figure">{figure}</span>}
      {children}
    </li>
  );
}

/** A button with an icon and a word, for what a sheet offers. */
export function ToolButton({
  icon: Icon,
  name,
  title,
  main,
  active,
  disabled,
  onClick,
}: {
  icon: LucideIcon;
  name: string;
  title?: string;
  main?: boolean;
  active?: boolean;
  disabled?: boolean;
  onClick: () => void;
}) {
  return (
    <button
      className={`btn btn-sm ${main ? 'btn-sunlit' : 'btn-quiet'}${active ? ' active' : ''}`}
      title={title}
      aria-pressed={active}
      disabled={disabled}
      onClick={onClick}
    >
      <Icon size={14} /> {name}
    </button>
  );
}
