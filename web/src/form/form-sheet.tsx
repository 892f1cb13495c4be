import { findOwner } from '@dial-shade/core';
import { ProblemsSection } from '../app/problems-section';
import { FirstSteps } from '../site/first-steps';
import { NeighbourSection } from '../site/neighbour-section';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { BodySection } from './body-section';
import { DrawSection } from './draw-section';
import { FiguresSection } from './figures-section';
import { OperationsSection } from './operations-section';
import { OptionsSection } from './options-section';
import { RoomsSection } from './rooms-section';
import { ObjectTree } from './object-tree';

/** Options and everything in them. */
export function FormSheet() {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const selection = useView((view) => view.selection);
  const option = project.options.find((o) => o.id === optionId) ?? project.options[0]!;
  const owner = selection && findOwner(project, selection) ? selection : null;
  return (
    <>
      <h1>Form</h1>
      <FirstSteps />
      <OptionsSection option={option} />
      <DrawSection option={option} />
      <ProblemsSection optionId={option.id} />
      {owner && (
        <>
          <NeighbourSection key={`n-${owner.id}`} owner={owner} />
          <BodySection key={owner.id} owner={owner} />
          <OperationsSection owner={owner} />
          <RoomsSection key={`r-${owner.id}`} owner={owner} />
        </>
      )}
      <ObjectTree optionId={option.id} />
      <FiguresSection option={option} owner={owner} />
    </>
  );
}
