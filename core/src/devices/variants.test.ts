import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import { standScheme } from '../document';
import { assembleScene } from '../scene';
import { variantOf, variantsOf, inVariant } from './variants';

const project = house(OVERHANG);
const option = project.options.find(({ id }) => id === 'a')!;
option.schemes.push({ id: 'deep', name: 'Deep', devices: [] });

test('an option is compared as it stands, without devices, and with every other scheme', () => {
  expect(variantsOf(option).map(({ id, name }) => [id, name])).toEqual([
    ['a', option.name],
    ['a~', `${option.name}, without devices`],
    ['a~deep', `${option.name}, Deep`],
  ]);
  expect(variantsOf(project.options[0]!).map(({ id }) => id)).toEqual(['today']);
  // A scheme that stands now may have been named before it did.
  expect(variantOf(project, 'a~s')!.scheme!.name).toBe('Scheme');
  expect([variantOf(project, 'a~gone'), variantOf(project, 'gone'), variantOf(project, 'gone~s')]).toEqual([
    null,
    null,
    null,
  ]);
});

test('the project of a variant has its scheme standing, and is the same object when it is asked for again', () => {
  expect(inVariant(project, 'a')).toEqual({ project, optionId: 'a' });
  expect(inVariant(project, 'a').project).toBe(project);
  const deep = inVariant(project, 'a~deep');
  expect(deep.project).toEqual(standScheme('a', 'deep')(project));
  expect(inVariant(project, 'a~deep').project).toBe(deep.project);
  // After an edit elsewhere the option with the scheme is still the same, and with it what is known of it.
  const edited = { ...project, name: 'Other' };
  expect(inVariant(edited, 'a~deep').project.options.find(({ id }) => id === 'a')).toBe(
    deep.project.options.find(({ id }) => id === 'a'),
  );
  const owners = (id: string) => {
    const of = inVariant(project, id);
    return assembleScene(of.project, of.optionId, NONE).owners.filter(({ layer }) => layer === 'devices');
  };
  expect([owners('a').length, owners('a~').length]).toEqual([1, 0]);
  expect(() => inVariant(project, 'a~gone')).toThrow('does not exist');
});
