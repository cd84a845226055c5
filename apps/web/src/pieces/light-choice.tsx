import { LIGHTS, useLight, type Light } from '../live/light';

const NAMES: Record<Light, string> = {
  system: 'As the system',
  day: 'Day',
  dusk: 'Dusk',
  red: 'Red, night vision',
};

export function LightChoice({ compact = false }: { compact?: boolean }) {
  const { light, choose } = useLight();
  return (
    <label
      className={
        compact
          ? 'flex flex-1 flex-col items-center justify-center gap-1 text-[13px]'
          : 'block px-4.5 py-4 text-[12.5px]'
      }
    >
      Light
      <select
        value={light}
        onChange={({ target }) => choose(target.value as Light)}
        className={`rounded-[6px] border border-railink/60 bg-rail text-railink ${compact ? 'w-16 p-0.5' : 'mt-1 w-full px-1.5 py-1'}`}
      >
        {LIGHTS.map((one) => (
          <option key={one} value={one}>
            {NAMES[one]}
          </option>
        ))}
      </select>
    </label>
  );
}
