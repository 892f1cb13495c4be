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
          <li key={picture.id}>
            <button className="thumb" title={picture.name} onClick={() => setShown([picture])}>
              <img src={`${addressOf(picture)}/thumb`} alt={picture.name} loading="lazy" />
            </button>
            <div className="said">
              <label className="text-truncate" title={picture.name}>
                <input
                  type="checkbox"
                  aria-label={`Choose ${picture.name}`}
                  checked={chosen.includes(picture.id)}
                  onChange={({ target }) =>
                    setChosen(
                      target.checked
                        ? [...chosen, picture.id].slice(-2)
                        : chosen.filter((id) => id !== picture.id),
                    )
                  }
                />{' '}
                {optionNow(picture)?.letter} {picture.viewpoint}
              </label>
              <span>
                {longDate(picture.date)}, {formatClock(picture.minutes)}
              </span>
              <span className="d-flex gap-1">
                <a
                  className="btn-bare"
                  href={addressOf(picture)}
                  download={`${picture.name}.png`}
                  aria-label={`Download ${picture.name}`}
                  title={`Download, ${picture.width} × ${picture.height}`}
                >
                  <Download size={14} />
                </a>
                <button
                  className="btn-bare"
                  aria-label={`Remove ${picture.name}`}
                  title="Remove from the gallery"
                  onClick={() => void removePicture(picture.id)}
                >
                  <Trash2 size={14} />
                </button>
              </span>
            </div>
          </li>
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
