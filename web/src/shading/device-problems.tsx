import type { Option } from '@dial-shade/core';
import { TriangleAlert } from 'lucide-react';
import { useAside } from '../workers/use-aside';

/** What is worth knowing of where the devices stand: all of it is allowed. */
export function DeviceProblems({ option }: { option: Option }) {
  const found = useAside((worker) => worker.deviceProblems(option.id), [option.id]) ?? [];
  if (found.length === 0) return null;
  return (
    <ul className="device-problems" aria-label="Worth a look" data-testid="device-problems">
      {found.map((sentence) => (
        <li key={sentence}>
          <TriangleAlert size={13} aria-hidden /> {sentence}
        </li>
      ))}
    </ul>
  );
}
