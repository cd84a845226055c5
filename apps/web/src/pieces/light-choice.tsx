import { LIGHTS, useLight, type Light } from '../live/light';

const NAMES: Record<Light, string> = {
  system: 'As the system',
  day: 'Day',
  dusk: 'Dusk',
  red: 'Red, night vision',
};

/** Kept in this browser: the phone on the cliff and the screen in the hut see by different lights. */
export function LightChoice() {
  const { light, choose } = useLight();
  return (
    <select
      aria-label="Light"
      value={light}
      onChange={({ target }) => choose(target.value as Light)}
      className="w-56 rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 max-md:min-h-11"
    >
      {LIGHTS.map((one) => (
        <option key={one} value={one}>
          {NAMES[one]}
        </option>
      ))}
    </select>
  );
}
