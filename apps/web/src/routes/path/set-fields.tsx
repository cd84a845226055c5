import { lazy, Suspense, useState } from 'react';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { Draft } from '../../live/draft';
import { useLive } from '../../live/store';
import { NumberField, TextField } from '../../pieces/field';
import { thinnedOut } from '@mistpeak/core/tracks/track';
import { Button } from '../../pieces/button';
import { DevicePlace } from '../../pieces/device-place';
import { TrackFile } from '../../pieces/track-file';
import { readSet, type OwnSet } from './own-set';

/** Of a track, with the rest of the draft. */
const MOST_KEPT = 1000;

// The map is large.
const TrackByHand = lazy(() => import('./track-by-hand'));

/** Where the packets come from, and with what they are sent. */
export function SetFields({ draft, withTrack = false }: { draft: Draft<OwnSet>; withTrack?: boolean }) {
  const { values, set } = draft;
  const operator = useLive((state) => state.operator) as OperatorView;
  const [isDrawing, setDrawing] = useState(false);
  const ready = readSet(values);
  const wrong = 'wrong' in ready ? ready.wrong : {};
  const change = (more: Partial<OwnSet>): void => set({ ...values, ...more });
  return (
    <form className="flex flex-col gap-3" noValidate onSubmit={(event) => event.preventDefault()}>
      {values.track ? (
        <p className="flex flex-wrap items-center gap-2 text-[14px]">
          Along <b>{values.track.name}</b>, {values.track.points.length} points
          <Button onClick={() => set(withoutTrack(values))}>Use one place</Button>
        </p>
      ) : (
        <TextField
          label="From"
          mono
          value={values.place}
          error={wrong.place}
          hint="coordinates or a locator"
          onChange={({ target }) => change({ place: target.value })}
        />
      )}
      <div className="flex flex-wrap gap-2">
        <DevicePlace take={(place) => set({ ...withoutTrack(values), place })} />
        {withTrack && (
          <TrackFile
            take={(name, points) =>
              change({
                track: {
                  name,
                  points: thinnedOut(points, MOST_KEPT).map(({ latitudeDeg, longitudeDeg }) => [
                    latitudeDeg,
                    longitudeDeg,
                  ]),
                },
              })
            }
          />
        )}
      </div>
      {withTrack && (
        <Button className="self-start" onClick={() => setDrawing(!isDrawing)}>
          {isDrawing ? 'No, leave it' : 'Draw a track on the map …'}
        </Button>
      )}
      {isDrawing && (
        <Suspense fallback={<p className="text-ink2">Unfolding the map …</p>}>
          <TrackByHand
            operator={operator}
            take={(points) => {
              setDrawing(false);
              change({
                track: {
                  name: 'a way drawn by hand',
                  points: points.map(({ latitudeDeg, longitudeDeg }) => [latitudeDeg, longitudeDeg]),
                },
              });
            }}
          />
        </Suspense>
      )}
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        <NumberField
          label="Antenna height, m"
          value={values.heightM}
          error={wrong.heightM}
          hint="over the ground"
          set={(heightM) => change({ heightM })}
        />
        <NumberField
          label="Power, W"
          value={values.powerW}
          error={wrong.powerW}
          set={(powerW) => change({ powerW })}
        />
        <NumberField
          label="Antenna gain, dBi"
          value={values.gainDbi}
          error={wrong.gainDbi}
          hint="−5 at the body, 2 to 3 a vertical"
          set={(gainDbi) => change({ gainDbi })}
        />
        <NumberField
          label="Feed loss, dB"
          value={values.feedLossDb}
          error={wrong.feedLossDb}
          set={(feedLossDb) => change({ feedLossDb })}
        />
        <NumberField
          label="Trees, houses, dB"
          hint="0 in the open, 8 among houses, 16 in a wood"
          value={values.clutterDb}
          error={wrong.clutterDb}
          set={(clutterDb) => change({ clutterDb })}
        />
        <NumberField
          label="Frequency, MHz"
          value={values.frequencyMHz}
          error={wrong.frequencyMHz}
          set={(frequencyMHz) => change({ frequencyMHz })}
        />
        <NumberField
          label="Reads down to, dBm"
          value={values.thresholdDbm}
          error={wrong.thresholdDbm}
          hint="−113 is usual for 1200 Bd"
          set={(thresholdDbm) => change({ thresholdDbm })}
        />
      </div>
    </form>
  );
}

function withoutTrack({ track: _, ...rest }: OwnSet): OwnSet {
  return rest;
}
