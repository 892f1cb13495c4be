import { findOpenable, findOwner, removeOwners, TODAY } from '@dial-shade/core';
import { focusedView } from '../board/pane-registry';
import { ownerKey } from '../board/scene-look';
import { removeOpening } from '../openings/use-facade';
import { usePictures } from '../pictures/pictures-store';
import { currentProject, edit, redo, undo } from '../state/project-store';
import { optionsInOrder, setView, useView } from '../state/view-store';
import { foldAlmanac, isAlmanacFolded, useLayout } from '../state/layout-store';
import { arrange, changeDrawing, focusNextPane, usePanes } from '../state/panes-store';
import { ARRANGEMENTS } from './arrangement-buttons';
import { useDialogs } from './dialogs';
import { stageOf } from './use-stage';
import { STAGES } from './stage-rail';

/** Something that can be done from anywhere, by search or by key. */
export interface Command {
  name: string;
  where: string;
  keys?: string;
  run: () => void;
}

/** Removes what is chosen on the board: the opening that is being worked on, or the objects themselves. */
export function removeSelection(): void {
  const { selection, also, opening, locked } = useView.getState();
  if (!selection) return;
  const body = findOpenable(currentProject(), selection);
  if (opening && body?.openings.some((o) => o.id === opening)) {
    removeOpening(selection, opening);
    return;
  }
  const owners = [selection, ...also].filter((owner) => !locked.has(ownerKey(owner)));
  const name =
    owners.length === 1
      ? (findOwner(currentProject(), owners[0]!)?.name ?? 'it')
      : `${owners.length} objects`;
  if (!edit(`remove ${name}`, removeOwners(owners))) setView({ selection: null, also: [], opening: null });
}

/** Hides what is chosen, or shows everything again when nothing is. */
function hideSelection(): void {
  const { selection, also, hidden } = useView.getState();
  if (!selection) setView({ hidden: new Set() });
  else
    setView({
      hidden: new Set([...hidden, ...[selection, ...also].map(ownerKey)]),
      selection: null,
      also: [],
    });
}

const drawingNow = () => {
  const { panes, focused } = usePanes.getState();
  return panes.find(({ id }) => id === focused)!.drawing;
};
const toggleKinds = () => changeDrawing({ tone: drawingNow().tone === 'kinds' ? 'paper' : 'kinds' });
const togglePath = () => changeDrawing({ sunPath: !drawingNow().sunPath });

const toolCommands: Command[] = [
  { name: 'Choose objects', where: 'Board', keys: 'V', run: () => setView({ tool: { kind: 'select' } }) },
  { name: 'Move objects', where: 'Board', keys: 'M', run: () => setView({ tool: { kind: 'move' } }) },
  {
    name: 'Push and pull faces',
    where: 'Board',
    keys: 'U',
    run: () => setView({ tool: { kind: 'push', scope: 'wall' } }),
  },
  {
    name: 'Drag corners and edges',
    where: 'Board',
    keys: 'C',
    run: () => setView({ tool: { kind: 'corners' } }),
  },
  {
    name: 'Draw a rectangle',
    where: 'Board',
    keys: 'R',
    run: () => setView({ tool: { kind: 'draw', shape: 'rectangle', purpose: 'mass' } }),
  },
  {
    name: 'Draw a polygon',
    where: 'Board',
    keys: 'G',
    run: () => setView({ tool: { kind: 'draw', shape: 'polygon', purpose: 'mass' } }),
  },
];

/** Commands about what the board shows, and from where. */
const viewCommands = (): Command[] => [
  { name: 'Hide what is chosen, or show everything', where: 'View', keys: 'H', run: hideSelection },
  {
    name: 'Colour by kind of face',
    where: 'View',
    keys: 'K',
    run: toggleKinds,
  },
  { name: 'Fit everything', where: 'View', keys: 'F', run: () => focusedView()?.lookFrom('fit') },
  { name: 'From above', where: 'View', keys: 'A', run: () => focusedView()?.lookFrom('above') },
  { name: 'From drawing north', where: 'View', keys: 'N', run: () => focusedView()?.lookFrom('north') },
  { name: 'From drawing east', where: 'View', keys: 'E', run: () => focusedView()?.lookFrom('east') },
  { name: 'From drawing south', where: 'View', keys: 'S', run: () => focusedView()?.lookFrom('south') },
  { name: 'From drawing west', where: 'View', keys: 'W', run: () => focusedView()?.lookFrom('west') },
  ...ARRANGEMENTS.map(({ arrangement, name }) => ({
    name,
    where: 'Panes',
    run: () => arrange(arrangement),
  })),
  { name: 'Next pane', where: 'Panes', keys: 'Q', run: focusNextPane },
  { name: 'Closer', where: 'View', keys: '+', run: () => focusedView()?.approach(0.85) },
  { name: 'Farther', where: 'View', keys: '-', run: () => focusedView()?.approach(1 / 0.85) },
  { name: 'Turn the view left', where: 'View', keys: '[', run: () => focusedView()?.turn(-10) },
  { name: 'Turn the view right', where: 'View', keys: ']', run: () => focusedView()?.turn(10) },
];

/** Every command, as things stand now. */
export function commands(go: (stage: string) => void): Command[] {
  const project = currentProject();
  return [
    ...STAGES.map(({ path, name }) => ({ name: `Go to ${name}`, where: 'Stage', run: () => go(path) })),
    { name: 'All projects', where: 'Project', run: () => window.location.assign('/projects') },
    ...optionsInOrder(project).map((option, i) => ({
      name: `Show ${option.letter} ${option.name}`,
      where: 'Option',
      keys: option.id === TODAY ? '0' : i < 9 ? String(i + 1) : undefined,
      run: () => setView({ optionId: option.id, selection: null, also: [], opening: null }),
    })),
    { name: 'Undo', where: 'Edit', keys: 'Ctrl Z', run: undo },
    { name: 'Redo', where: 'Edit', keys: 'Ctrl Shift Z', run: redo },
    { name: 'Remove what is chosen', where: 'Edit', keys: 'Delete', run: removeSelection },
    ...toolCommands,
    ...viewCommands(),
    {
      name: 'Play or pause the day',
      where: 'Almanac',
      keys: 'Space',
      run: () => setView(({ play }) => ({ play: play ? null : 'day' })),
    },
    {
      name: 'Play or pause the season',
      where: 'Almanac',
      keys: 'Shift Space',
      run: () => setView(({ play }) => ({ play: play ? null : 'season' })),
    },
    {
      name: 'Fold or open the almanac',
      where: 'Almanac',
      keys: 'T',
      run: () => {
        const stage = stageOf(window.location.pathname);
        foldAlmanac(stage, !isAlmanacFolded(useLayout.getState(), stage));
      },
    },
    {
      name: 'Show or hide the sun path',
      where: 'View',
      keys: 'P',
      run: togglePath,
    },
    {
      name: 'Paper or night theme',
      where: 'View',
      run: () => setView(({ theme }) => ({ theme: theme === 'light' ? 'dark' : 'light' })),
    },
    {
      name: 'Pictures and films',
      where: 'View',
      keys: 'I',
      run: () => usePictures.setState({ isOpen: true }),
    },
    { name: 'Keys', where: 'Help', keys: '?', run: () => useDialogs.setState({ keys: true }) },
  ];
}
