import { useEffect, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { durationInWords } from '../almanac/wording';
import { CheckField, ChoiceField, NumberField } from '../app/fields';
import { Film, Image, Images, Square } from 'lucide-react';
import { usePanes } from '../state/panes-store';
import { FilmFields } from './film-fields';
import { Gallery } from './gallery';
import type { PictureStyle } from './picture';
import { PictureFields } from './picture-fields';
import { loadGallery, stopMaking } from './make-pictures';
import { usePictures } from './pictures-store';
import { SetFields } from './set-fields';
import { focusedView } from '../board/pane-registry';

const SIZES = ['1280 × 800', '1600 × 1000', '1920 × 1080', '2560 × 1440', '3840 × 2160', '7680 × 4320'];
const KINDS = [
  { kind: 'picture', name: 'Picture', icon: Image },
  { kind: 'set', name: 'Set', icon: Images },
  { kind: 'film', name: 'Film', icon: Film },
] as const;

type Kind = (typeof KINDS)[number]['kind'];

/** Pictures and films of what the board shows, and the gallery of the project. */
export function PicturesDialog() {
  const isOpen = usePictures((state) => state.isOpen);
  return (
    <Modal
      show={isOpen}
      onHide={() => usePictures.setState({ isOpen: false })}
      size="xl"
      animation={false}
      scrollable
      aria-labelledby="pictures-title"
      dialogClassName="pictures-dialog"
    >
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="pictures-title" className="h6">
          Pictures and films
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>{isOpen && <Body />}</Modal.Body>
    </Modal>
  );
}

function Body() {
  const [kind, setKind] = useState<Kind>('picture');
  const [style, setStyle] = useState<PictureStyle>({
    width: 1600,
    height: 1000,
    paper: 'white',
    strip: true,
  });
  useEffect(() => void loadGallery(), []);
  return (
    <div className="pictures">
      <div className="making">
        <div className="btn-group mb-2" role="group" aria-label="What is made">
          {KINDS.map(({ kind: one, name, icon: Icon }) => (
            <button
              key={one}
              className="btn btn-quiet btn-sm"
              aria-pressed={kind === one}
              onClick={() => setKind(one)}
            >
              <Icon size={14} /> {name}
            </button>
          ))}
        </div>
        <StyleFields style={style} change={(more) => setStyle({ ...style, ...more })} />
        {kind === 'picture' && <PictureFields style={style} />}
        {kind === 'set' && <SetFields style={style} />}
        {kind === 'film' && <FilmFields style={style} />}
        <Progress />
      </div>
      <Gallery />
    </div>
  );
}

function StyleFields({
  style: { width, height, paper, strip },
  change,
}: {
  style: PictureStyle;
  change: (more: Partial<PictureStyle>) => void;
}) {
  const isAlone = usePanes((state) => state.arrangement === 'one');
  const size = `${width} × ${height}`;
  const asPane = focusedView()?.aspect ?? 1.6;
  const shaped = {
    name: isAlone ? 'As the board' : 'As the pane',
    width: 1920,
    height: Math.round(1920 / asPane / 2) * 2,
  };
  const value = SIZES.includes(size)
    ? size
    : width === shaped.width && height === shaped.height
      ? 'pane'
      : 'own';
  return (
    <>
      <ChoiceField
        label="Size, pixels"
        value={value}
        choices={[
          ...SIZES.map((one) => ({ value: one, name: one })),
          { value: 'pane', name: `${shaped.name}, ${shaped.width} × ${shaped.height}` },
          { value: 'own', name: 'A size of its own' },
        ]}
        commit={(next) => {
          if (next === 'pane') change({ width: shaped.width, height: shaped.height });
          else if (next === 'own') change({ width: width + (value === 'own' ? 0 : 2) });
          else {
            const [w, h] = next.split(' × ').map(Number) as [number, number];
            change({ width: w, height: h });
          }
        }}
      />
      {value === 'own' && (
        <>
          <NumberField
            label="Width"
            value={width}
            digits={0}
            commit={(next) => {
              change({ width: next });
              return null;
            }}
          />
          <NumberField
            label="Height"
            value={height}
            digits={0}
            commit={(next) => {
              change({ height: next });
              return null;
            }}
          />
        </>
      )}
      <ChoiceField
        label="On"
        value={paper}
        choices={[
          { value: 'white', name: 'White' },
          { value: 'paper', name: 'Paper' },
        ]}
        commit={(next) => change({ paper: next })}
      />
      <CheckField
        label="Strip with project, moment, sun, north and scale"
        checked={strip}
        change={(is) => change({ strip: is })}
      />
    </>
  );
}

/** How far a job is, with its stop; what came of the last one. */
function Progress() {
  const { job, outcome } = usePictures();
  if (!job)
    return outcome ? (
      <p role="status" data-testid="pictures-outcome" className="mt-2 mb-0">
        {outcome}
      </p>
    ) : null;
  const { done, total, secondsEach, what } = job;
  const left = secondsEach === null ? null : secondsEach * (total - done);
  return (
    <div className="mt-2" role="status">
      <progress max={total} value={done} className="w-100" aria-label="Progress" />
      <div className="d-flex justify-content-between align-items-center">
        <span>
          {done} of {total} {what === 'film' ? 'frames' : total === 1 ? 'picture' : 'pictures'}
          {left !== null && done < total && `, ${durationInWords(left)} left`}
        </span>
        {total > 1 && (
          <button className="btn btn-quiet btn-sm" onClick={stopMaking}>
            <Square size={12} /> Stop
          </button>
        )}
      </div>
    </div>
  );
}
