import { Layers } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useLive } from '../../live/store';
import { Choice } from '../choice';
import { KeepArea } from './keep-area';
import type { Extent } from './kept-areas';
import { TRACK_HOURS, useMapSettings, type MapSettings } from './map-settings';

const CHOICES = {
  hills: 'Light and shade of the hills',
  contours: 'Lines of equal height',
  graticule: 'Degrees',
  locators: 'Locator squares',
  rings: 'Rings of distance round me',
  ranges: 'How far stations say that they reach',
  ahead: 'Where they are by now, straight on',
} as const satisfies Partial<Record<keyof MapSettings, string>>;

/** What lies on the map; each browser keeps its own choice. shown: the part of the earth that the map shows now. */
export function LayersPanel({ shown }: { shown: () => Extent }) {
  const settings = useMapSettings();
  const maps = useLive((state) => state.maps);
  const isServerThere = useLive((state) => state.connection === 'open');
  const set = (change: Partial<MapSettings>): void => {
    useMapSettings.setState(change);
  };
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label="What lies on the map"
        title="What lies on the map"
        className="grid size-9 place-items-center border-b border-line hover:bg-sheet max-md:size-11"
      >
        <Layers className="size-4" aria-hidden />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Lying on the map"
          side="left"
          align="end"
          sideOffset={8}
          className="z-40 flex max-h-[80dvh] flex-col overflow-y-auto rounded-lg border border-edge bg-raise px-4 py-2.5 text-[14px]"
        >
          {Object.entries(CHOICES).map(([key, words]) => (
            <Choice
              key={key}
              label={words}
              isOn={settings[key as keyof typeof CHOICES]}
              set={(isOn) => set({ [key]: isOn })}
            />
          ))}
          {maps.map(({ name }) => (
            <Choice
              key={name}
              label={`Map ${name.replace(/\.pmtiles$/i, '')}`}
              isOn={!settings.without.includes(name)}
              set={(isOn) =>
                set({
                  without: isOn
                    ? settings.without.filter((one) => one !== name)
                    : [...settings.without, name],
                })
              }
            />
          ))}
          <label className="flex items-center gap-2 py-1.5">
            Tracks of the last
            <select
              value={settings.trackHours}
              onChange={({ target }) => set({ trackHours: Number(target.value) })}
              className="rounded-md border border-edge bg-raise px-2 py-0.5 max-md:min-h-11"
            >
              {TRACK_HOURS.map((hours) => (
                <option key={hours} value={hours}>
                  {hours} h
                </option>
              ))}
            </select>
          </label>
          {isServerThere &&
            maps
              .filter(({ name, tiles }) => tiles !== 'unknown' && !settings.without.includes(name))
              .map((map) => <KeepArea key={map.name} map={map} extent={shown()} />)}
          <Popover.Arrow className="fill-edge" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
