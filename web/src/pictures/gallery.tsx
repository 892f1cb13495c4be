import { formatClock, type PictureLine } from '@dial-shade/core';
import { ArrowLeft, Columns2, Download, Trash2 } from 'lucide-react';
import { type PointerEvent, useState } from 'react';
import { longDate } from '../almanac/wording';
import { useDocument } from '../state/project-store';
import { loadMore, removePicture } from './make-pictures';
import { usePictures } from './pictures-store';

const addressOf = ({ id }: PictureLine) => `/api/pictures/${id}`;

/** The pictures kept with the project: filtered, looked at, two compared, taken out, removed. */
export function Gallery() {
  const { gallery, hasMore } = usePictures();
  const project = useDocument();
  const [wanted, setWanted] = useState('');
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [shown, setShown] = useState<readonly PictureLine[]>([]);
  /** A picture stays when its option is removed. */
  const optionNow = ({ optionId }: PictureLine) => project.options.find(({ id }) => id === optionId);
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const textOf = (picture: PictureLine) => {
    const { name, viewpoint, date, minutes } = picture;
    const option = optionNow(picture)?.name ?? '';
    return [name, viewpoint, option, longDate(date), formatClock(minutes)].join(' ').toLowerCase();
  };
  const listed = gallery.filter((one) => words.every((word) => textOf(one).includes(word)));
  const pair = chosen.flatMap((id) => gallery.filter((one) => one.id === id));

  if (shown.length)
    return (
      <section className="gallery" aria-label="Gallery">
        <button className="btn btn-quiet btn-sm mb-2" onClick={() => setShown([])}>
          <ArrowLeft size={13} /> All pictures
        </button>
        {shown.length === 2 ? <Compare one={shown[0]!} other={shown[1]!} /> : <Large picture={shown[0]!} />}
      </section>
    );
  return (
    <section className="gallery" aria-label="Gallery">
      <div className="d-flex gap-2 align-items-center mb-2">
        <input
          className="form-control form-control-sm"
          type="search"
          placeholder="Filter by option, viewpoint, date"
          aria-label="Filter the gallery"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
        <button
          className="btn btn-quiet btn-sm text-nowrap"
          disabled={pair.length !== 2}
          title={pair.length === 2 ? undefined : 'Tick two pictures to compare them'}
          onClick={() => setShown(pair)}
        >
          <Columns2 size={13} /> Compare two
        </button>
      </div>
      {gallery.length === 0 && (
        <p className="visually-quiet">
          No picture is kept yet. <em>Make the picture</em> keeps what the board shows.
        </p>
      )}
      {gallery.length > 0 && listed.length === 0 && (
        <p className="visually-quiet">No picture says “{wanted}”.</p>
      )}
      <ul className="thumbs">
        {listed.map((picture) => (
          <Thumb
            key={picture.id}
            picture={picture}
            letter={optionNow(picture)?.letter}
            isChosen={chosen.includes(picture.id)}
            choose={(isChosen) =>
              setChosen(
                isChosen ? [...chosen, picture.id].slice(-2) : chosen.filter((id) => id !== picture.id),
              )
            }
            show={() => setShown([picture])}
          />
        ))}
      </ul>
      {hasMore && (
        <button className="btn btn-quiet btn-sm" onClick={() => void loadMore()}>
          Show more
        </button>
      )}
    </section>
  );
}

/** A picture among others: small, with what can be done with it. */
function Thumb({
  picture,
  letter,
  isChosen,
  choose,
  show,
}: {
  picture: PictureLine;
  letter: string | undefined;
  isChosen: boolean;
  choose: (isChosen: boolean) => void;
  show: () => void;
}) {
  const { id, name, viewpoint, date, minutes, width, height } = picture;
  return (
    <li>
      <button className="thumb" title={name} onClick={show}>
        <img src={`${addressOf(picture)}/thumb`} alt={name} loading="lazy" />
      </button>
      <div className="said">
        <label className="text-truncate" title={name}>
          <input
            type="checkbox"
            aria-label={`Choose ${name}`}
            checked={isChosen}
            onChange={({ target }) => choose(target.checked)}
          />{' '}
          {letter} {viewpoint}
        </label>
        <span>
          {longDate(date)}, {formatClock(minutes)}
        </span>
        <span className="d-flex gap-1">
          <a
            className="btn-bare"
            href={addressOf(picture)}
            download={`${name}.png`}
            aria-label={`Download ${name}`}
            title={`Download, ${width} × ${height}`}
          >
            <Download size={14} />
          </a>
          <button
            className="btn-bare"
            aria-label={`Remove ${name}`}
            title="Remove from the gallery"
            onClick={() => void removePicture(id)}
          >
            <Trash2 size={14} />
          </button>
        </span>
      </div>
    </li>
  );
}

function Large({ picture }: { picture: PictureLine }) {
  return (
    <figure className="large">
      <img src={addressOf(picture)} alt={picture.name} />
      <figcaption>
        {picture.name}, {picture.width} × {picture.height}, {(picture.bytes / 1e6).toFixed(1)} MB
      </figcaption>
    </figure>
  );
}

/** Two pictures on one another, divided by a slider. */
function Compare({ one, other }: { one: PictureLine; other: PictureLine }) {
  const [share, setShare] = useState(50);
  const drag = ({ currentTarget, clientX, buttons }: PointerEvent<HTMLDivElement>) => {
    if (!(buttons & 1)) return;
    const box = currentTarget.getBoundingClientRect();
    setShare(Math.max(0, Math.min(100, ((clientX - box.left) / box.width) * 100)));
  };
  return (
    <figure className="large">
      <div className="compare" onPointerDown={drag} onPointerMove={drag}>
        <img src={addressOf(other)} alt={other.name} draggable={false} />
        <img
          src={addressOf(one)}
          alt={one.name}
          draggable={false}
          style={{ clipPath: `inset(0 ${100 - share}% 0 0)` }}
        />
        <div className="edge" style={{ left: `${share}%` }} />
      </div>
      <input
        type="range"
        className="w-100"
        min={0}
        max={100}
        value={share}
        aria-label="How much of the first picture is seen"
        onChange={(event) => setShare(Number(event.target.value))}
      />
      <figcaption className="d-flex justify-content-between gap-3">
        <span>{one.name}</span>
        <span>{other.name}</span>
      </figcaption>
    </figure>
  );
}
