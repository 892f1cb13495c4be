import { findOpenable, type OwnerRef, type Project, TODAY } from '@dial-shade/core';

/** Who has this id among what stands in an option: its own bodies, those of Today, neighbours; null where nobody has. */
export function ownerNamed(project: Project, option: string, id: string): OwnerRef | null {
  const owners = [option, TODAY, null].map((optionId) => ({ optionId, id }));
  return owners.find((owner) => findOpenable(project, owner)) ?? null;
}
