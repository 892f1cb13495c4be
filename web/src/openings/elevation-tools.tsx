import type { Opening } from '@dial-shade/core';
import {
  AlignVerticalJustifyStart,
  Copy,
  DoorOpen,
  Frame,
  Pentagon,
  RectangleHorizontal,
  Trash2,
  ZoomIn,
} from 'lucide-react';
import { IconButton, ToolButton } from '../app/objects';
import { alignBelow, below, copyOpening } from './arrange-openings';
import { PaintButton, usePanelRule } from './panel-painter';
import { type Facade, removeOpening } from './use-facade';
import type { ElevationPointer } from './use-elevation';

/** What can be drawn in a face, and what can be done with the opening that is chosen. */
export function ElevationTools({
  facade,
  pointer: { making, make },
  chosen,
  onLook,
}: {
  facade: Facade;
  pointer: ElevationPointer;
  chosen: Opening | null;
  onLook: () => void;
}) {
  const panels = usePanelRule(facade);
  const inRoof = facade.face.host.on === 'roof';
  const kinds = [
    { kind: 'rectangle', icon: RectangleHorizontal, name: inRoof ? 'Rooflight' : 'Window' },
    { kind: 'arch', icon: Frame, name: 'Arch' },
    { kind: 'polygon', icon: Pentagon, name: 'Polygon' },
    ...(inRoof ? [] : [{ kind: 'door', icon: DoorOpen, name: 'Door' } as const]),
  ] as const;
  return (
    <div className="tools" role="toolbar" aria-label="Openings">
      {kinds.map(({ kind, icon, name }) => (
        <ToolButton
          key={kind}
          main={kind === 'rectangle' && making === null}
          icon={icon}
          name={name}
          active={making === kind}
          onClick={() => make(kind)}
        />
      ))}
      {panels && <PaintButton active={making === 'paint'} onClick={() => make('paint')} />}
      <IconButton icon={ZoomIn} label="Look square at this face" onClick={onLook} />
      {chosen && (
        <>
          <IconButton icon={Copy} label={`Copy ${chosen.name}`} onClick={() => copyOpening(facade, chosen)} />
          <IconButton
            icon={AlignVerticalJustifyStart}
            label={`Align ${chosen.name} with the one below`}
            disabled={below(facade, chosen) === null}
            onClick={() => alignBelow(facade, chosen)}
          />
          <IconButton
            icon={Trash2}
            label={`Remove ${chosen.name}`}
            onClick={() => removeOpening(facade.owner, chosen.id)}
          />
        </>
      )}
    </div>
  );
}
