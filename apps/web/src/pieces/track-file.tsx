import { Route } from 'lucide-react';
import { useState } from 'react';
import type { TrackFix } from '@mistpeak/core/tracks/track';
import { readTrackFile } from '../live/track-file';
import { FileButton } from './file-button';

/** A track out of a file: GPX or GeoJSON, however large; progress is shown, and what cannot be read is said. */
export function TrackFile({ take }: { take: (name: string, points: readonly TrackFix[]) => void }) {
  const [words, setWords] = useState<string>();
  const read = async (file: File): Promise<void> => {
    try {
      const { name, points } = await readTrackFile(file, (share) =>
        setWords(`${Math.round(share * 100)} % read …`),
      );
      setWords(`${points.length} points of ${file.name}.`);
      take(name || file.name.replace(/\.\w+$/, ''), points);
    } catch (error) {
      setWords(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <FileButton
        label="File of a track, GPX or GeoJSON"
        accept=".gpx,.geojson,.json"
        take={(file) => void read(file)}
      >
        <Route className="size-4" aria-hidden /> A track from a file …
      </FileButton>
      {words !== undefined && (
        <span role="status" className="text-[13px] text-ink3">
          {words}
        </span>
      )}
    </span>
  );
}
