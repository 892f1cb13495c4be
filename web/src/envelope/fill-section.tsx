import { add, type Envelope, formatArea, newId, nextHue, nextLetter, type Option } from '@dial-shade/core';
import { Layers } from 'lucide-react';
import { useState } from 'react';
import { LengthField, Section } from '../app/fields';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView } from '../state/view-store';
import { computeAside } from '../workers/compute';

/** An option of whole storeys that fills the envelope. */
export function FillSection({ envelope }: { envelope: Envelope }) {
  const { units } = useDocument();
  const [wish, setWish] = useState({ leastDepthM: 7, coreM: 25 });
  const [isAtWork, setAtWork] = useState(false);
  const within = (value: number, low: number, high: number) =>
    value >= low && value <= high ? null : `From ${low} to ${high} m.`;
  const fill = async () => {
    setAtWork(true);
    const found = await computeAside(currentProject(), useMeshes.getState().meshes).fill(envelope.id, {
      ...wish,
      storeyM: envelope.storeyM,
    });
    setAtWork(false);
    if ('refused' in found) {
      notify(found.refused, true);
      return;
    }
    const id = newId('option');
    const { floorAreaM2, storeys, cores, masses } = found;
    const figures = `${formatArea(floorAreaM2, units)} on ${storeys} storey${storeys > 1 ? 's' : ''}, ${cores.length} core${cores.length > 1 ? 's' : ''} reach all of it`;
    const refused = edit(`fill ${envelope.name}`, (document) => {
      const option: Option = {
        ...{ id, name: `Fill of ${envelope.name}`.slice(0, 100), letter: nextLetter(document) },
        ...{ hue: nextHue(document), note: `${figures}.`, masses },
        ...{ models: [], rules: [], schemes: [], scheme: null },
      };
      return add('options', option)(document);
    });
    if (refused) return;
    setView({ optionId: id, selection: null, also: [] });
    notify(`A new option fills it: ${figures}.`);
  };
  return (
    <Section title="Fill it">
      <div className="pair even">
        <LengthField
          label="Least depth"
          value={wish.leastDepthM}
          commit={(leastDepthM) => {
            const wrong = within(leastDepthM, 1, 100);
            if (!wrong) setWish({ ...wish, leastDepthM });
            return wrong;
          }}
        />
        <LengthField
          label="To a core"
          value={wish.coreM}
          commit={(coreM) => {
            const wrong = within(coreM, 3, 200);
            if (!wrong) setWish({ ...wish, coreM });
            return wrong;
          }}
        />
      </div>
      <button className="btn btn-sunlit btn-sm mb-2" disabled={isAtWork} onClick={() => void fill()}>
        <Layers size={14} /> {isAtWork ? 'Filling …' : 'Fill it with storeys'}
      </button>
    </Section>
  );
}
