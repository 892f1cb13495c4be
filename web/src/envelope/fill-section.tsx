import { add, type Envelope, formatArea, newId, nextHue, nextLetter, type Option } from '@dial-shade/core';
import { Layers } from 'lucide-react';
import { useState } from 'react';
import { ChoiceField, LengthField, Section } from '../app/fields';
import { api } from '../state/api';
import { rememberMesh, useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView } from '../state/view-store';
import { computeAside } from '../workers/compute';

/** An option of whole storeys that fills the envelope. */
export function FillSection({ envelope }: { envelope: Envelope }) {
  const { units } = useDocument();
  const [wish, setWish] = useState({ leastDepthM: 7, coreM: 25 });
  const [top, setTop] = useState<'stepped' | 'sloped'>('stepped');
  const [isAtWork, setAtWork] = useState(false);
  const within = (value: number, low: number, high: number) =>
    value >= low && value <= high ? null : `From ${low} to ${high} m.`;
  /** The space up to the surface as one mesh of a new option. */
  const fillUp = async () => {
    setAtWork(true);
    try {
      const found = await computeAside(currentProject(), useMeshes.getState().meshes).fillSloped(
        envelope.id,
        envelope.storeyM,
      );
      if ('refused' in found) {
        notify(found.refused, true);
        return;
      }
      const { hash, triangles } = await api.putMesh(found.mesh);
      rememberMesh(hash, found.mesh);
      const figures = `${formatArea(found.floorAreaM2, units)} in ${found.storeys} storeys under a sloping top`;
      const body = { id: newId('model'), name: 'Body under the envelope', mesh: hash, triangles };
      addOption(envelope, figures, {
        masses: [],
        models: [
          { ...body, ...{ move: [0, 0, 0], turnDeg: 0, openness: 0, openings: [], demolished: false } },
        ],
      });
    } catch (error) {
      notify((error as Error).message, true);
    } finally {
      setAtWork(false);
    }
  };
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
    const { floorAreaM2, storeys, cores, masses } = found;
    const figures = `${formatArea(floorAreaM2, units)} on ${storeys} storey${storeys > 1 ? 's' : ''}, ${cores.length} core${cores.length > 1 ? 's' : ''} reach all of it`;
    addOption(envelope, figures, { masses, models: [] });
  };
  return (
    <Section title="Fill it">
      <ChoiceField
        label="Top"
        value={top}
        choices={[
          { value: 'stepped', name: 'stepped, whole storeys' },
          { value: 'sloped', name: 'sloped, up to the surface' },
        ]}
        commit={setTop}
      />
      {top === 'stepped' && (
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
      )}
      <button
        className="btn btn-sunlit btn-sm mb-2"
        disabled={isAtWork}
        onClick={() => void (top === 'stepped' ? fill() : fillUp())}
      >
        <Layers size={14} />{' '}
        {isAtWork ? 'Filling …' : top === 'stepped' ? 'Fill it with storeys' : 'Fill it to the surface'}
      </button>
    </Section>
  );
}

/** Adds what fills an envelope as an option, and shows it. */
function addOption(envelope: Envelope, figures: string, parts: Pick<Option, 'masses' | 'models'>): void {
  const id = newId('option');
  const refused = edit(`fill ${envelope.name}`, (document) => {
    const option: Option = {
      ...{ id, name: `Fill of ${envelope.name}`.slice(0, 100), letter: nextLetter(document) },
      ...{ hue: nextHue(document), note: `${figures}.`, rules: [], schemes: [], scheme: null },
      ...parts,
    };
    return add('options', option)(document);
  });
  if (refused) return;
  setView({ optionId: id, selection: null, also: [] });
  notify(`A new option fills it: ${figures}.`);
}
