import { changeDevice, type Device, instantOf, type Option, DEVICE_KINDS } from '@dial-shade/core';
import { Ruler } from 'lucide-react';
import { useState } from 'react';
import { CheckField, ChoiceField, LengthField, NumberField, Section } from '../app/fields';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { useMoment, useView } from '../state/view-store';
import { computeAside } from '../workers/compute';
import type { Against } from '../workers/size-work';
import { useGlass } from './glass-store';
import {
  Answer,
  AnswerInRoom,
  type Found,
  type FoundInRoom,
  type Goal,
  makeOf,
  nameOf,
  type Sizes,
} from './size-answer';
import { SizeTable } from './size-table';

/** Minutes between the moments of an afternoon that a device is sized for. */
const STEP = 20;

/** The smallest device that keeps so much of the glass in shade. */
export function SizeSection({
  option,
  schemeId,
  device,
}: {
  option: Option;
  schemeId: string;
  device: Device;
}) {
  const { hourSets, site } = useDocument();
  const date = useView((view) => view.date);
  const atMs = useMoment();
  const { chosen, now } = useGlass();
  const choices = DEVICE_KINDS[device.make.kind].free;
  const [number, setNumber] = useState(choices[0]!.number);
  const [second, setSecond] = useState('');
  const [against, setAgainst] = useState('now');
  const [hours, setHours] = useState({ from: 13, to: 17 });
  const [goal, setGoal] = useState(95);
  const [each, setEach] = useState(true);
  const [of, setOf] = useState<Goal>('glass');
  const [deepest, setDeepest] = useState(1.5);
  const [atMost, setAtMost] = useState(100);
  const [found, setFound] = useState<Found | null>(null);
  const [inRoom, setInRoom] = useState<FoundInRoom | null>(null);
  const [isAtWork, setAtWork] = useState(false);
  // Energy is of a set of hours.
  const isSet = against !== 'now' && against !== 'day';
  const goalOf = of === 'kWh' && !isSet ? 'glass' : of;
  const isOfGlass = goalOf === 'glass' || goalOf === 'kWh';
  const free = choices.find((one) => one.number === number) ?? choices[0]!;
  const also = choices.find((one) => one.number === second && one !== free) ?? null;
  const row = now.find(({ key }) => key === chosen);
  const { zone } = site.place;
  const wish = (): Against => {
    if (against === 'now') return { by: 'moments', moments: [atMs] };
    if (against !== 'day') return { by: 'set', id: against };
    const moments = [];
    for (let minutes = hours.from * 60; minutes <= hours.to * 60; minutes += STEP)
      moments.push(instantOf(date, minutes, zone));
    return { by: 'moments', moments };
  };
  const findForRoom = async () => {
    setAtWork(true);
    try {
      const answer = await computeAside(currentProject(), useMeshes.getState().meshes).sizedForRoom(
        option.id,
        chosen!,
        device,
        wish(),
        { ...free, second: also },
        of === 'furniture' ? { by: 'furniture' } : { by: 'depth', atMostM: deepest },
      );
      if ('refused' in answer) notify(answer.refused, true);
      else setInRoom({ ...answer, number: free.number, also, what: nameOf(free, also), deepest, of });
    } finally {
      setAtWork(false);
    }
  };
  const find = async () => {
    setAtWork(true);
    try {
      const worker = computeAside(currentProject(), useMeshes.getState().meshes);
      const { from, to } = free;
      const size = { number: free.number, from, to, goal: goal / 100, each, second: also };
      const limit = goalOf === 'kWh' ? atMost : null;
      const answer = await worker.sizedAt(option.id, chosen!, device, wish(), size, limit);
      if ('refused' in answer) {
        notify(answer.refused, true);
        return;
      }
      const said: Found = {
        ...answer,
        number: free.number,
        also,
        what: nameOf(free, also),
        goal: goalOf === 'kWh' ? null : goal,
        each: goalOf === 'glass' && each && answer.moments > 1,
        sets: [],
      };
      setFound(said);
      setAtWork(false);
      // What it lets in of the hours that are named takes longer than the size: it comes after.
      const sets = await worker.beamLetIn(option.id, chosen!, device, makeOf(device.make, said));
      if (!('refused' in sets)) setFound((now) => (now === said ? { ...said, sets } : now));
    } finally {
      setAtWork(false);
    }
  };
  const hang = (sizes: Sizes) =>
    edit(
      `size ${device.name}`,
      changeDevice(option.id, schemeId, device.id, { make: makeOf(device.make, sizes) }),
    );
  return (
    <Section title="Size for" name="size">
      <ChoiceField
        label="Free is"
        value={free.number}
        choices={choices.map(({ number: value, name }) => ({ value, name }))}
        commit={(value) => {
          setNumber(value);
          setFound(null);
        }}
      />
      {choices.length > 1 && (
        <ChoiceField
          label="And"
          value={also?.number ?? ''}
          choices={[
            { value: '', name: 'nothing else' },
            ...choices
              .filter((one) => one !== free)
              .map(({ number: value, name }) => ({ value, name: `${name}: least of it all` })),
          ]}
          commit={(value) => {
            setSecond(value);
            setFound(null);
            setInRoom(null);
          }}
        />
      )}
      <ChoiceField
        label="Unwanted"
        value={against}
        choices={[
          { value: 'now', name: 'the sun at the moment' },
          { value: 'day', name: 'the sun of hours on this day' },
          ...hourSets.map(({ id, name }) => ({ value: id, name: `hours of “${name}”` })),
        ]}
        commit={setAgainst}
      />
      {against === 'day' && (
        <div className="pair even">
          <NumberField
            label="From"
            unit="h"
            value={hours.from}
            commit={(from) => hourOf(from, (value) => setHours({ ...hours, from: value }))}
          />
          <NumberField
            label="To"
            unit="h"
            value={hours.to}
            commit={(to) =>
              to <= hours.from
                ? `It must be after ${hours.from} h.`
                : hourOf(to, (value) => setHours({ ...hours, to: value }))
            }
          />
        </div>
      )}
      <ChoiceField
        label="Goal"
        value={goalOf}
        choices={[
          { value: 'glass', name: 'so much of the glass in shade' },
          ...(isSet ? [{ value: 'kWh' as const, name: 'so little sun on the glass' }] : []),
          { value: 'depth', name: 'no sun deeper in the room than' },
          { value: 'furniture', name: 'no sun on its furniture' },
        ]}
        commit={setOf}
      />
      {of === 'depth' && (
        <LengthField
          label="At most"
          value={deepest}
          commit={(value) => {
            if (!(value >= 0 && value <= 50)) return 'From 0 to 50 m behind the facade.';
            setDeepest(value);
            return null;
          }}
        />
      )}
      {goalOf === 'kWh' && (
        <NumberField
          label="At most"
          unit="kWh"
          value={atMost}
          commit={(value) => {
            if (!(value >= 0 && value <= 1e6)) return 'Some kWh of these hours, from 0 up.';
            setAtMost(value);
            return null;
          }}
        />
      )}
      {goalOf === 'glass' && (
        <NumberField
          label="In shade, at least"
          unit="%"
          value={goal}
          commit={(value) => {
            if (!(value > 0 && value <= 100)) return 'A share of the glass above 0 and up to 100 %.';
            setGoal(value);
            return null;
          }}
        />
      )}
      {goalOf === 'glass' && against !== 'now' && (
        <CheckField label="At each moment, not only over all" checked={each} change={setEach} />
      )}
      <button
        className="btn btn-quiet mb-2"
        disabled={isAtWork || !row}
        onClick={() => void (isOfGlass ? find() : findForRoom())}
      >
        <Ruler size={13} /> {isAtWork ? 'Sizing' : 'Find the size'}
      </button>
      {isOfGlass && found && <Answer found={found} zone={zone} hang={() => hang(found)} />}
      {!isOfGlass && inRoom && <AnswerInRoom found={inRoom} zone={zone} hang={() => hang(inRoom)} />}
      {goalOf === 'glass' && (
        <SizeTable
          option={option}
          schemeId={schemeId}
          device={device}
          size={{ number: free.number, from: free.from, to: free.to, goal: goal / 100, each }}
          against={wish}
          disabled={!row}
        />
      )}
    </Section>
  );
}

function hourOf(value: number, take: (value: number) => void): string | null {
  if (!Number.isInteger(value) || value < 0 || value > 24) return 'A whole hour from 0 to 24.';
  take(value);
  return null;
}
