import type { Storage } from '@dial-shade/core';
import { useEffect, useState } from 'react';
import { api } from '../state/api';
import { bytesInWords } from './bytes-in-words';

const KINDS: Record<keyof Storage['kinds'], string> = {
  documents: 'projects',
  meshes: 'meshes',
  pictures: 'pictures',
  runs: 'results',
  sweeps: 'sweeps',
  masks: 'what was traced',
};

/** What everything that is kept takes, of how much; `of` is what it goes by: it is asked again when that changes. */
export function StorageLine({ of }: { of: unknown }) {
  const [storage, setStorage] = useState<Storage | null>(null);
  useEffect(() => {
    // Where it cannot be had, the list says why.
    api.storage().then(setStorage, () => {});
  }, [of]);
  if (!storage) return null;
  const { bytes, limitBytes, freeBytes, isNearlyFull, kinds } = storage;
  const parts = (Object.keys(KINDS) as (keyof typeof KINDS)[]).filter((kind) => kinds[kind] > 0);
  return (
    <div className="mt-3">
      <div
        className={`storage-bar${isNearlyFull ? ' full' : ''}`}
        role="meter"
        aria-label="Room that is used"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round((100 * bytes) / limitBytes)}
      >
        <span style={{ width: `${Math.min(100, (100 * bytes) / limitBytes)}%` }} />
      </div>
      <p className="visually-quiet small m-0">
        {bytesInWords(bytes)} of {bytesInWords(limitBytes)} used:{' '}
        {parts.map((kind) => `${KINDS[kind]} ${bytesInWords(kinds[kind])}`).join(', ')};{' '}
        {bytesInWords(freeBytes)} free on the disk
      </p>
      {isNearlyFull && (
        <p className="m-0" role="alert">
          There is little room left. Delete pictures and projects that are not needed any more; then nothing
          new has to be refused.
        </p>
      )}
    </div>
  );
}
