import { create } from 'zustand';

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

darkSystem.addEventListener('change', applyLight);
