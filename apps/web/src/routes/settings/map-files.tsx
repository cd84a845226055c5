import { useEffect, useState } from 'react';
import { MAP_TYPE } from '@mistpeak/contract/maps';
import { command, sendFile } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useLive } from '../../live/store';
import { formatDay } from '../../pieces/age';
import { forgetArea, readKeptAreas, useKeptAreas } from '../../pieces/map/kept-areas';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { formatSize } from '../../pieces/size';
import { FileButton } from '../../pieces/file-button';

/** Maps of one's own, gigabytes of them: they lie on Mistpeak's disk and need no internet. */
export function MapFiles() {
  const maps = useLive((state) => state.maps);
  const { problem, isBusy, attempt } = useAttempt();
  const [sending, setSending] = useState<string>();
  const take = async (file: File): Promise<void> => {
    setSending(file.name);
    await attempt(() => sendFile('PUT', `/maps/${encodeURIComponent(file.name)}`, file, MAP_TYPE));
    setSending(undefined);
  };
  return (
    <section
      aria-label="Map files"
      className="flex flex-col items-start gap-2 border-t-[1.5px] border-ink pt-2.5"
    >
      <h2>Map files</h2>
      <p className="text-[14px] text-ink2">
        PMTiles files, vector in the common open schema or pictures. They can also be laid into the folder{' '}
        <code className="font-mono text-ink">maps</code> of the data folder. Without one the coasts of the
        world are drawn.
      </p>
      {maps.length > 0 && (
        <ul className="w-full max-w-xl text-[14px]">
          {maps.map(({ name, octets, tiles, minZoom, maxZoom }) => (
            <li key={name} className="flex items-center gap-3 border-t border-line py-1">
              <span className="flex-1">
                {name.replace(/\.pmtiles$/i, '')}{' '}
                <span className="text-ink3">
                  {tiles === 'vector' ? 'vector' : 'pictures'}, {formatSize(octets)}, scales {minZoom} to{' '}
                  {maxZoom}
                </span>
              </span>
              <OperatorOnly>
                <Button
                  kind="stop"
                  aria-label={`Remove the map ${name}`}
                  onClick={() => void attempt(() => command('DELETE', `/maps/${encodeURIComponent(name)}`))}
                >
                  Remove
                </Button>
              </OperatorOnly>
            </li>
          ))}
        </ul>
      )}
      <KeptHere />
      <OperatorOnly>
        <FileButton
          label="Map file, PMTiles"
          accept=".pmtiles"
          disabled={isBusy}
          take={(file) => void take(file)}
        >
          {sending === undefined ? 'Take a map file …' : `${sending} is on its way …`}
        </FileButton>
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}

/** Pieces of map that lie in this browser. */
function KeptHere() {
  const areas = useKeptAreas((state) => state.areas);
  useEffect(() => void readKeptAreas(), []);
  if (areas.length === 0)
    return (
      <p className="text-[14px] text-ink3">
        A piece of a map is kept on this device from the map itself: What lies on the map.
      </p>
    );
  return (
    <ul aria-label="Kept on this device" className="w-full max-w-xl text-[14px]">
      {areas.map(({ name, octets, maxZoom, atMs }) => (
        <li key={name} className="flex items-center gap-3 border-t border-line py-1">
          <span className="flex-1">
            A piece of {name.replace(/\.pmtiles$/i, '')}, on this device{' '}
            <span className="text-ink3">
              {formatSize(octets)}, scales to {maxZoom}, {formatDay(atMs)}
            </span>
          </span>
          <Button onClick={() => void forgetArea(name)}>Forget it</Button>
        </li>
      ))}
    </ul>
  );
}
