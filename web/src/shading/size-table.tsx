import {
  changeScheme,
  type Device,
  type DeviceMake,
  newId,
  type Option,
  SECTORS,
  type SizeAsked,
} from '@dial-shade/core';
import { Grid3x3, Square } from 'lucide-react';
import { useRef, useState } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, edit } from '../state/project-store';
import { computeAside } from '../workers/compute';
import type { Against, GroupSized, SizeGroup } from '../workers/size-work';

/** A group with what it needs, once that is known. */
interface Sized extends SizeGroup {
  found: GroupSized | null;
}

/** What the windows of every side and storey need, as a table, and a device for each of them. */
export function SizeTable({
  option,
  schemeId,
  device,
  size,
  against,
  disabled,
}: {
  option: Option;
  schemeId: string;
  device: Device;
  size: SizeAsked;
  against: () => Against;
  /** There is no window yet. */
  disabled: boolean;
}) {
  const [groups, setGroups] = useState<Sized[] | null>(null);
  const [of, setOf] = useState('');
  const [isAtWork, setAtWork] = useState(false);
  const run = useRef(0);
  const asked = JSON.stringify([size, device.scope, device.openings]);
  const find = async () => {
    const mine = ++run.current;
    setAtWork(true);
    try {
      const worker = () => computeAside(currentProject(), useMeshes.getState().meshes);
      const wish = against();
      let all: Sized[] = (await worker().sizeGroups(option.id, device)).map((group) => ({
        ...group,
        found: null,
      }));
      setOf(asked);
      for (const group of all) {
        if (run.current !== mine) return;
        setGroups(all);
        const found = await worker().sizedGroup(option.id, group.keys, device, wish, size);
        if ('refused' in found) {
          notify(found.refused, true);
          return;
        }
        all = all.map((one) => (one.keys === group.keys ? { ...one, found } : one));
      }
      setGroups(all);
    } finally {
      if (run.current === mine) setAtWork(false);
    }
  };
  const stop = () => {
    run.current++;
    setAtWork(false);
  };
  const done = groups?.filter(({ found }) => found !== null && found.seen > 0) ?? [];
  return (
    <>
      {isAtWork ? (
        <button className="btn btn-sm btn-quiet mb-2" onClick={stop}>
          <Square size={13} /> Stop
        </button>
      ) : (
        <button className="btn btn-sm btn-quiet mb-2" disabled={disabled} onClick={() => void find()}>
          <Grid3x3 size={13} /> For every side and storey
        </button>
      )}
      {groups && (
        <div data-testid="size-table">
          {of !== asked && <p className="stale">Out of date: other sizes or openings are asked for now.</p>}
          <GroupsTable groups={groups} number={size.number} />
          {done.some(({ found }) => found!.unmet > 0) && (
            <p className="visually-quiet mb-1">
              * no size does it for all of them; the best that can be had.
            </p>
          )}
          {!isAtWork && done.length > 0 && of === asked && (
            <button
              className="btn btn-sm btn-quiet mb-2"
              onClick={() => hangForEach(option.id, schemeId, device, size.number, done)}
            >
              Hang one for each
            </button>
          )}
        </div>
      )}
    </>
  );
}

/** What is needed, a row a storey from the top, a column a side. */
function GroupsTable({ groups, number }: { groups: readonly Sized[]; number: string }) {
  const storeys = [...new Set(groups.map(({ storey }) => storey))].sort((a, b) => b - a);
  const sectors = SECTORS.filter((sector) => groups.some((group) => group.sector === sector));
  const read = (value: number) => (number.endsWith('Deg') ? `${value.toFixed(0)}°` : value.toFixed(2));
  return (
    <table className="figures">
      <thead>
        <tr>
          <th>Storey</th>
          {sectors.map((sector) => (
            <th key={sector}>{sector}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {storeys.map((storey) => (
          <tr key={storey}>
            <td>{storey + 1}</td>
            {sectors.map((sector) => {
              const group = groups.find((one) => one.sector === sector && one.storey === storey);
              if (!group) return <td key={sector}>–</td>;
              const { found, keys } = group;
              if (!found) return <td key={sector}>…</td>;
              return (
                <td
                  key={sector}
                  className={found.unmet > 0 ? 'wrong' : undefined}
                  title={`${keys.length} windows, ${found.seen} with the sun before them${found.unmet > 0 ? `; for ${found.unmet} of them no size does it, this is the best` : ''}`}
                >
                  {found.seen === 0 ? 'no sun' : `${read(found.value)}${found.unmet > 0 ? ' *' : ''}`}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A device for each group in the place of one for all. */
function hangForEach(
  optionId: string,
  schemeId: string,
  device: Device,
  number: string,
  groups: readonly Sized[],
): void {
  const one = ({ sector, storey, found }: Sized): Device => ({
    ...device,
    id: newId('device'),
    name: `${device.name} ${sector} ${storey + 1}`.slice(0, 80),
    scope: { ...device.scope, sectors: [sector], storeys: [storey] },
    make: { ...device.make, [number]: found!.value } as DeviceMake,
  });
  edit(
    `size ${device.name} side by side`,
    changeScheme(optionId, schemeId, (scheme) => ({
      ...scheme,
      devices: scheme.devices.flatMap((other) => (other.id === device.id ? groups.map(one) : [other])),
    })),
  );
}
