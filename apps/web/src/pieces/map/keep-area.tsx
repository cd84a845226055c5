import { useRef, useState } from 'react';
import type { MapView } from '@mistpeak/contract/maps';
import { formatDay } from '../age';
import { Button } from '../button';
import { formatSize } from '../size';
import { countTiles, forgetArea, keepArea, MOST_TILES, useKeptAreas, type Extent } from './kept-areas';

/** What the map shows now, for this device: a piece of a map file that needs neither internet nor server. */
export function KeepArea({ map, extent }: { map: MapView; extent: Extent }) {
  const kept = useKeptAreas(({ areas }) => areas.find(({ name }) => name === map.name));
  const [deepest, setDeepest] = useState(map.maxZoom);
  const [seen, setSeen] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const isStopped = useRef(false);
  const scales = Array.from({ length: map.maxZoom - map.minZoom + 1 }, (_, i) => map.minZoom + i);
  const count = countTiles(extent, map.minZoom, deepest);
  const name = map.name.replace(/\.pmtiles$/i, '');
  const keep = async (): Promise<void> => {
    isStopped.current = false;
    setProblem(undefined);
    setSeen(0);
    try {
      await keepArea(map, extent, deepest, (tiles) => {
        setSeen(tiles);
        return !isStopped.current;
      });
    } catch (error) {
      const reason = error instanceof Error ? error.message : String(error);
      setProblem(`This area was not kept: ${reason}. Is Mistpeak there, and has this device room for it?`);
    }
    setSeen(undefined);
  };
  return (
    <section aria-label={`Area of ${name} on this device`} className="border-t border-line py-2">
      <h3 className="text-[14px] font-[620]">Keep this area of {name} here</h3>
      {kept && (
        <p className="flex items-center gap-2 text-[13px] text-ink2">
          Kept {formatDay(kept.atMs)}, {formatSize(kept.octets)}, scales to {kept.maxZoom}
          <Button onClick={() => void forgetArea(map.name)}>Forget it</Button>
        </p>
      )}
      {seen === undefined ? (
        <div className="flex items-center gap-2 pt-1">
          <label className="flex items-center gap-2">
            Scales to
            <select
              value={deepest}
              onChange={({ target }) => setDeepest(Number(target.value))}
              className="rounded-md border border-edge bg-raise px-2 py-0.5 max-md:min-h-11"
            >
              {scales.map((scale) => (
                <option key={scale}>{scale}</option>
              ))}
            </select>
          </label>
          <Button disabled={count > MOST_TILES} onClick={() => void keep()}>
            Keep what the map shows
          </Button>
        </div>
      ) : (
        <div className="flex items-center gap-2 pt-1">
          <progress
            aria-label="Tiles kept"
            value={seen}
            max={count}
            className="h-2 flex-1 accent-(--proved)"
          />
          <Button onClick={() => void (isStopped.current = true)}>Stop</Button>
        </div>
      )}
      <p className="text-[13px] text-ink3">
        {count > MOST_TILES
          ? `${count.toLocaleString('en')} tiles are too many, ${MOST_TILES.toLocaleString('en')} at most: zoom in, or take fewer scales.`
          : `${count === 1 ? '1 tile' : `${count.toLocaleString('en')} tiles`}. It is shown when Mistpeak cannot be reached.`}
      </p>
      {problem !== undefined && (
        <p role="alert" className="max-w-72 text-[13px] text-stop">
          {problem}
        </p>
      )}
    </section>
  );
}
