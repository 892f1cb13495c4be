import {
  AppWindow,
  Blinds,
  Building2,
  CircleHelp,
  CloudSun,
  Grid3x3,
  Map,
  Scale,
  SunMedium,
  Tent,
} from 'lucide-react';
import { NavLink, useLocation } from 'react-router';
import { useDialogs } from './dialogs';

export const STAGES = [
  { path: 'site', name: 'Site', icon: Map },
  { path: 'climate', name: 'Climate', icon: CloudSun },
  { path: 'form', name: 'Form', icon: Building2 },
  { path: 'envelope', name: 'Envelope', icon: Tent },
  { path: 'openings', name: 'Openings', icon: AppWindow },
  { path: 'sun', name: 'Sun', icon: SunMedium },
  { path: 'studies', name: 'Studies', icon: Grid3x3 },
  { path: 'shading', name: 'Shading', icon: Blinds },
  { path: 'compare', name: 'Compare', icon: Scale },
] as const;

export function StageRail() {
  const { search } = useLocation();
  return (
    <nav className="stages" aria-label="Stages">
      {STAGES.map(({ path, name, icon: Icon }) => (
        <NavLink key={path} to={{ pathname: path, search }}>
          <Icon size={19} strokeWidth={1.7} />
          {name}
        </NavLink>
      ))}
      <div className="rest">
        <button
          className="btn-bare"
          title="Keys (?)"
          aria-label="Keys"
          onClick={() => useDialogs.setState({ keys: true })}
        >
          <CircleHelp size={17} />
        </button>
      </div>
    </nav>
  );
}
