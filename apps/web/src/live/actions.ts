import { useNavigate } from 'react-router';
import { command } from '../api';
import { PAGES } from '../routes';
import { useIsWatcher } from './access';
import { LIGHTS, useLight } from './light';
import { isOpen, useMainLink } from './main-link';
import { useLive } from './store';

/** Something that the palette or a key can do. keys: as a person presses them. */
export interface Action {
  readonly id: string;
  readonly words: string;
  readonly keys?: string;
  /** What else it is found by. */
  readonly about?: string;
  run(): void | Promise<unknown>;
}

const LIGHT_WORDS = {
  system: 'Light as the system',
  day: 'Day light',
  dusk: 'Dusk light',
  red: 'Red light, night vision',
};

/** Parts of the TNC page that have their own address. */
const SECTIONS = [
  {
    id: 'channel',
    words: 'Go to TNC: channel access',
    about: 'TXDELAY, persistence, slot time, tail, parameters',
  },
  {
    id: 'frames',
    words: 'Go to TNC: frame length and window',
    about: 'PACLEN, MAXFRAME, throughput, timers',
  },
  { id: 'sharing', words: 'Go to TNC: other programs', about: 'sharing, port for another program, network' },
] as const;

/** Everything that can be done from anywhere now: pages, the beacon, the lock, the link, the light. */
export function useActions(): readonly Action[] {
  const navigate = useNavigate();
  const link = useMainLink();
  const isArmed = useLive((state) => (link ? state.locks.get(link.id)?.armed === true : false));
  const isArmedForBeacon = useLive(
    (state) => isArmed && link !== undefined && state.locks.get(link.id)?.call === state.beacon?.source,
  );
  const isWatcher = useIsWatcher();
  const choose = useLight((state) => state.choose);
  const pages = PAGES.map(({ path, label, about, key }) => ({
    id: path,
    words: `Go to ${label}`,
    about,
    keys: `g ${key}`,
    run: () => void navigate(path),
  }));
  const lights = LIGHTS.map((light) => ({ id: light, words: LIGHT_WORDS[light], run: () => choose(light) }));
  if (!link || isWatcher) return [...pages, ...lights];
  const name = link.settings.name;
  const path = `/links/${link.id}`;
  return [
    ...pages,
    ...SECTIONS.map(({ id, words, about }) => ({
      id,
      words,
      about,
      run: () => void navigate(`/tnc/${link.id}/${id}`),
    })),
    ...(isArmedForBeacon && isOpen(link)
      ? [
          {
            id: 'beacon',
            words: 'Send one beacon',
            keys: 'b',
            run: () => command('POST', '/beacon/transmissions', { linkId: link.id }),
          },
        ]
      : []),
    ...(isArmed
      ? [{ id: 'lock', words: 'Lock the transmitter', run: () => command('DELETE', `${path}/lock`) }]
      : []),
    isOpen(link)
      ? { id: 'close', words: `Close the link “${name}”`, run: () => command('POST', `${path}/close`) }
      : { id: 'open', words: `Open the link “${name}”`, run: () => command('POST', `${path}/open`) },
    ...lights,
  ];
}
