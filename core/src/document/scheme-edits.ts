import type { Device, Option, Project, Scheme } from '../project';
import type { Edit } from './list-edits';
import { newId } from './ids';

const editOption =
  (optionId: string, edit: (option: Option) => Option): Edit =>
  (project: Project) => ({
    ...project,
    options: project.options.map((option) => (option.id === optionId ? edit(option) : option)),
  });

/** Let a scheme of devices of an option stand; null: none. */
export const standScheme = (optionId: string, scheme: string | null): Edit =>
  editOption(optionId, (option) => ({ ...option, scheme }));

/** Put a scheme into an option, and let it stand. */
export const addScheme = (optionId: string, scheme: Scheme): Edit =>
  editOption(optionId, (option) => ({
    ...option,
    schemes: [...option.schemes, scheme],
    scheme: scheme.id,
  }));

/** Put a copy of a scheme into an option, with ids of its own. */
export const copyScheme = (optionId: string, scheme: Scheme, name = scheme.name): Edit =>
  addScheme(optionId, {
    id: newId('scheme'),
    name,
    devices: scheme.devices.map((device) => ({ ...device, id: newId('device') })),
  });

/** Take a scheme out of an option; none stands when it was the one. */
export const removeScheme = (optionId: string, schemeId: string): Edit =>
  editOption(optionId, (option) => ({
    ...option,
    schemes: option.schemes.filter(({ id }) => id !== schemeId),
    scheme: option.scheme === schemeId ? null : option.scheme,
  }));

/** Change a scheme of an option. */
export const changeScheme = (optionId: string, schemeId: string, change: (scheme: Scheme) => Scheme): Edit =>
  editOption(optionId, (option) => ({
    ...option,
    schemes: option.schemes.map((scheme) => (scheme.id === schemeId ? change(scheme) : scheme)),
  }));

/** Change one device of a scheme. */
export const changeDevice = (
  optionId: string,
  schemeId: string,
  deviceId: string,
  fields: Partial<Device>,
): Edit =>
  changeScheme(optionId, schemeId, (scheme) => ({
    ...scheme,
    devices: scheme.devices.map((device) => (device.id === deviceId ? { ...device, ...fields } : device)),
  }));
