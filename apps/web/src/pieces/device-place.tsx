import { LocateFixed } from 'lucide-react';
import { useState } from 'react';
import { formatPlace } from '@mistpeak/core/geo/place';
import { Button } from './button';

const WAIT_MS = 20_000;

/** Where this device is, if the browser may tell. */
export function DevicePlace({ take }: { take: (place: string) => void }) {
  const [words, setWords] = useState<string>();
  const ask = (): void => {
    setWords('Waiting for this device …');
    navigator.geolocation.getCurrentPosition(
      ({ coords: { latitude, longitude, accuracy } }) => {
        take(formatPlace({ latitudeDeg: latitude, longitudeDeg: longitude }));
        setWords(`Taken, to ${Math.round(accuracy)} m.`);
      },
      ({ code }) => setWords(REFUSALS[code] ?? 'This device gave no place.'),
      { enableHighAccuracy: true, timeout: WAIT_MS },
    );
  };
  if (!('geolocation' in navigator)) return null;
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <Button onClick={ask}>
        <LocateFixed className="size-4" aria-hidden /> Where this device is
      </Button>
      {words !== undefined && (
        <span role="status" className="text-[13px] text-ink3">
          {words}
        </span>
      )}
    </span>
  );
}

/** By the code of the refusal (W3C Geolocation, "GeolocationPositionError"). */
const REFUSALS: Record<number, string> = {
  1: 'The browser may not tell: allow it for this page, or type the place.',
  2: 'This device does not know where it is: go under open sky, or type the place.',
  3: 'This device took too long: go under open sky, or type the place.',
};
