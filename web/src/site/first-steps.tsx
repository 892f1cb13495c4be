import { TODAY } from '@dial-shade/core';
import { CircleCheck, Circle } from 'lucide-react';
import { Link, useLocation } from 'react-router';
import { useDocument } from '../state/project-store';

/** What a new project needs before its shade can be trusted; gone once all is there. */
export function FirstSteps() {
  const { site, options, neighbours } = useDocument();
  const { search } = useLocation();
  const drawn = neighbours.length > 0 || options.some((option) => option.masses.length > 0);
  const steps = [
    { name: 'Set and confirm the place', done: site.place.confirmed, to: 'site' },
    { name: 'Turn and confirm true north', done: site.north.confirmed, to: 'site' },
    {
      name: 'Draw the first footprint',
      done: drawn && options.some((o) => o.id !== TODAY || o.masses.length > 0),
      to: 'form',
    },
  ];
  if (steps.every((step) => step.done)) return null;
  return (
    <ol className="steps" aria-label="First steps">
      {steps.map((step) => (
        <li key={step.name} className={step.done ? 'done' : ''}>
          {step.done ? <CircleCheck size={15} /> : <Circle size={15} />}
          <Link to={{ pathname: `../${step.to}`, search }} relative="path">
            {step.name}
          </Link>
        </li>
      ))}
    </ol>
  );
}
