import { CheckField } from '../app/fields';
import { useState } from 'react';
import { useStage } from '../app/use-stage';
import { usePanes } from '../state/panes-store';
import { currentProject } from '../state/project-store';
import type { PictureStyle } from './picture';
import { makePicture } from './make-pictures';
import { usePictures } from './pictures-store';
import { boardViews, focusedViews } from './views-now';

/** Whether all panes go into a picture, where there are several. */
export function usePanesAsked() {
  const isAlone = usePanes((state) => state.arrangement === 'one');
  const [isAll, setAll] = useState(false);
  const stage = useStage();
  return {
    views: () => (isAll && !isAlone ? boardViews : focusedViews)(currentProject(), stage),
    field: isAlone ? null : (
      <CheckField label="All panes of the board" checked={isAll} change={(is) => setAll(is)} />
    ),
  };
}

/** One picture of the pane with the focus, or of all panes. */
export function PictureFields({ style }: { style: PictureStyle }) {
  const { views, field } = usePanesAsked();
  const isBusy = usePictures((state) => state.job !== null);
  return (
    <>
      {field}
      <div className="d-flex gap-1 flex-wrap">
        <button
          className="btn btn-sunlit btn-sm"
          disabled={isBusy}
          onClick={() => void makePicture(views(), style, 'gallery')}
        >
          Make the picture
        </button>
        <button
          className="btn btn-quiet btn-sm"
          disabled={isBusy}
          title="Saves the picture as a file, without keeping it in the gallery"
          onClick={() => void makePicture(views(), style, 'file')}
        >
          Save as PNG
        </button>
      </div>
    </>
  );
}
