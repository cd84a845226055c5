import { useRef, useState, type DragEvent } from 'react';
import { tilesBetween } from '@mistpeak/core/geo/terrain';
import type { OperatorView } from '@mistpeak/contract/operator';
import { TILE_TYPE } from '@mistpeak/contract/elevation';
import { command, sendFile } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

const AROUND_KM = 40;

/** The ground: tiles of elevation, dropped in as they were published. */
export function TilesDrop() {
  const tiles = useLive((state) => state.tiles);
  const operator = useLive((state) => state.operator) as OperatorView;
  const input = useRef<HTMLInputElement>(null);
  const { problem, isBusy, attempt } = useAttempt();
  const [done, setDone] = useState<string>();
  const missing = operator.position
    ? tilesBetween([operator.position], AROUND_KM).filter((name) => !tiles.some((tile) => tile.name === name))
    : [];
  const take = (files: Iterable<File>): void =>
    void attempt(async () => {
      for (const file of files) {
        setDone(`${file.name} …`);
        await sendFile('PUT', `/elevation/${encodeURIComponent(file.name)}`, file, TILE_TYPE);
        setDone(`${file.name} was taken.`);
      }
    });
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    take(event.dataTransfer.files);
  };
  return (
    <section
      aria-label="Elevation"
      className="flex flex-col items-start gap-2 border-t-[1.5px] border-ink pt-2.5"
      onDragOver={(event) => event.preventDefault()}
      onDrop={drop}
    >
      <h2>The ground</h2>
      <p className="max-w-[46rem] text-[14px] text-ink2">
        Tiles of one degree in the form .hgt of the Shuttle Radar Topography Mission, with 1 or 3 arc seconds,
        named as S30W012.hgt. Drop them here. Where there is none, a smooth earth is taken, and it is said.
      </p>
      {tiles.length > 0 && (
        <ul className="flex flex-wrap gap-2">
          {tiles.map(({ name, size }) => (
            <li
              key={name}
              className="flex items-center gap-2 rounded-lg border border-line bg-raise px-3 py-1 text-[14px]"
            >
              <span className="font-mono">{name}</span>
              <span className="text-ink3">{size === 1201 ? '3″' : '1″'}</span>
              <OperatorOnly>
                <button
                  type="button"
                  className="text-stop underline max-md:min-h-11"
                  aria-label={`Remove ${name}`}
                  onClick={() => void attempt(() => command('DELETE', `/elevation/${name}`))}
                >
                  remove
                </button>
              </OperatorOnly>
            </li>
          ))}
        </ul>
      )}
      {missing.length > 0 && (
        <p className="text-[14px] text-look">
          Within {AROUND_KM} km of your place these are missing:{' '}
          <span className="font-mono">{missing.join(', ')}</span>. Over open sea there are none.
        </p>
      )}
      <OperatorOnly>
        <Button disabled={isBusy} onClick={() => input.current?.click()}>
          Take elevation tiles …
        </Button>
        <input
          ref={input}
          type="file"
          multiple
          accept=".hgt"
          aria-label="Elevation tiles"
          className="sr-only"
          tabIndex={-1}
          onChange={({ target }) => {
            take([...(target.files ?? [])]);
            target.value = '';
          }}
        />
      </OperatorOnly>
      {done !== undefined && !problem && (
        <p role="status" className="text-[13.5px] text-ink2">
          {done}
        </p>
      )}
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}
