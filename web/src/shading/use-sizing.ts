import { type Device, DEVICE_KINDS, type FreeNumber, instantOf } from '@dial-shade/core';
import { useState } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, useDocument } from '../state/project-store';
import { useMoment, useView } from '../state/view-store';
import { computeAside } from '../workers/compute';
import type { Against } from '../workers/size-work';
import { useGlass } from './glass-store';
import { type Found, type FoundInRoom, type Goal, makeOf, nameOf } from './size-answer';

/** Minutes between the moments of an afternoon that a device is sized for. */
const STEP = 20;

/** What a size is looked for by. */
interface SizeWish {
  /** The number that is free, and one that may be free beside it; '' for none. */
  number: string;
  second: string;
  /** The sun that is unwanted: of the moment, of hours of the day, or of a set of hours, by its id. */
  against: string;
  hours: { from: number; to: number };
  of: Goal;
  /** Least share of the glass in shade, per cent, and whether at each moment. */
  goal: number;
  each: boolean;
  /** How deep the sun may come into the room, metres, and most of it on the glass, kWh. */
  deepestM: number;
  atMostKWh: number;
}

const PLAIN: Omit<SizeWish, 'number'> = {
  second: '',
  against: 'now',
  hours: { from: 13, to: 17 },
  of: 'glass',
  goal: 95,
  each: true,
  deepestM: 1.5,
  atMostKWh: 100,
};

/** What a size of a device is looked for by, what that comes to, and what was found. */
export interface Sizing {
  wish: SizeWish;
  change: (fields: Partial<SizeWish>) => void;
  choices: readonly FreeNumber[];
  free: FreeNumber;
  also: FreeNumber | null;
  /** The goal that can be asked for: energy is of a set of hours. */
  goalOf: Goal;
  isSet: boolean;
  isOfGlass: boolean;
  against: () => Against;
  isAtWork: boolean;
  find: () => Promise<void>;
  found: Found | null;
  inRoom: FoundInRoom | null;
}

/** Looks for the smallest device of an option that does what is wished for, at the window that is looked at. */
export function useSizing(optionId: string, device: Device): Sizing {
  const { site } = useDocument();
  const date = useView((view) => view.date);
  const atMs = useMoment();
  const chosen = useGlass((state) => state.chosen);
  const choices = DEVICE_KINDS[device.make.kind].free;
  const [wish, setWish] = useState<SizeWish>({ ...PLAIN, number: choices[0]!.number });
  const [found, setFound] = useState<Found | null>(null);
  const [inRoom, setInRoom] = useState<FoundInRoom | null>(null);
  const [isAtWork, setAtWork] = useState(false);
  const { of, goal, each } = wish;
  const isSet = wish.against !== 'now' && wish.against !== 'day';
  const goalOf = of === 'kWh' && !isSet ? 'glass' : of;
  const isOfGlass = goalOf === 'glass' || goalOf === 'kWh';
  const free = choices.find((one) => one.number === wish.number) ?? choices[0]!;
  const also = choices.find((one) => one.number === wish.second && one !== free) ?? null;
  const asked = { number: free.number, also, what: nameOf(free, also) };

  const change = (fields: Partial<SizeWish>) => {
    setWish((now) => ({ ...now, ...fields }));
    // What was found is of other numbers.
    if ('number' in fields || 'second' in fields) setFound(null);
    if ('second' in fields) setInRoom(null);
  };
  const against = (): Against => {
    if (wish.against === 'now') return { by: 'moments', moments: [atMs] };
    if (wish.against !== 'day') return { by: 'set', id: wish.against };
    const moments = [];
    for (let minutes = wish.hours.from * 60; minutes <= wish.hours.to * 60; minutes += STEP)
      moments.push(instantOf(date, minutes, site.place.zone));
    return { by: 'moments', moments };
  };
  const worker = () => computeAside(currentProject(), useMeshes.getState().meshes);

  async function findForRoom(): Promise<void> {
    const numbers = { ...free, second: also };
    const limit =
      of === 'furniture' ? { by: 'furniture' as const } : { by: 'depth' as const, atMostM: wish.deepestM };
    const answer = await worker().sizedForRoom(optionId, chosen!, device, against(), numbers, limit);
    if ('refused' in answer) notify(answer.refused, true);
    else setInRoom({ ...answer, ...asked, deepest: wish.deepestM, of });
  }
  async function findForGlass(): Promise<void> {
    const { from, to } = free;
    const size = { number: free.number, from, to, goal: goal / 100, each, second: also };
    const limit = goalOf === 'kWh' ? wish.atMostKWh : null;
    const answer = await worker().sizedAt(optionId, chosen!, device, against(), size, limit);
    if ('refused' in answer) {
      notify(answer.refused, true);
      return;
    }
    const said: Found = {
      ...answer,
      ...asked,
      goal: goalOf === 'kWh' ? null : goal,
      each: goalOf === 'glass' && each && answer.moments > 1,
      sets: [],
    };
    setFound(said);
    setAtWork(false);
    // What it lets in of the hours that are named takes longer than the size: it comes after.
    const sets = await worker().beamLetIn(optionId, chosen!, device, makeOf(device.make, said));
    if (!('refused' in sets)) setFound((now) => (now === said ? { ...said, sets } : now));
  }
  const find = async () => {
    setAtWork(true);
    try {
      await (isOfGlass ? findForGlass() : findForRoom());
    } finally {
      setAtWork(false);
    }
  };
  return {
    ...{ wish, change, choices, free, also, goalOf, isSet, isOfGlass, against },
    ...{ isAtWork, find, found, inRoom },
  };
}
