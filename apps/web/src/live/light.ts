import { create } from 'zustand';
import { useLive } from './store';

export const LIGHTS = ['system', 'day', 'dusk', 'red'] as const;
export type Light = (typeof LIGHTS)[number];

const KEY = 'light';
const darkSystem = matchMedia('(prefers-color-scheme: dark)');

function remembered(): Light {
  const kept = localStorage.getItem(KEY);
  return LIGHTS.find((light) => light === kept) ?? 'system';
}

export const useLight = create<{ light: Light; choose: (light: Light) => void }>((set) => ({
  light: remembered(),
  choose: (light) => {
    localStorage.setItem(KEY, light);
    set({ light });
    applyLight();
  },
}));

/** Puts the chosen light, or the system's, on the page. */
export function applyLight(): void {
  const { light } = useLight.getState();
  document.documentElement.dataset.light = light === 'system' ? (darkSystem.matches ? 'dusk' : 'day') : light;
}

/** Puts on the page that the server is away, so that nothing of it stays green. */
export function followSilence(): void {
  useLive.subscribe(({ connection }, before) => {
    if (connection !== before.connection) document.documentElement.dataset.server = connection;
  });
}

darkSystem.addEventListener('change', applyLight);
