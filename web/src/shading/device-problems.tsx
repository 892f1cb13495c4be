import type { Option } from '@dial-shade/core';
import { TriangleAlert } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { currentProject, useDocument } from '../state/project-store';
import { lightParts } from '../studies/use-probe-year';
import { computeAside } from '../workers/compute';

/** What is worth knowing of where the devices stand: all of it is allowed. */
export function DeviceProblems({ option }: { option: Option }) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const [found, setFound] = useState<string[]>([]);
  useEffect(() => {
    let isWanted = true;
    const timer = setTimeout(() => {
      void computeAside(currentProject(), meshes)
        .deviceProblems(option.id)
        .then((sentences) => isWanted && setFound(sentences));
    }, 200);
    return () => {
      isWanted = false;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [option.id, meshes, ...lightParts(project)]);
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
