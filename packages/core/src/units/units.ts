/** Exact conversion factors (international yard and pound agreement, 1959; nautical mile, 1929). */
export const METRES_PER_FOOT = 0.3048;
export const METRES_PER_MILE = 1609.344;
export const METRES_PER_NAUTICAL_MILE = 1852;
export const MPS_PER_KNOT = METRES_PER_NAUTICAL_MILE / 3600;
export const MPS_PER_MPH = METRES_PER_MILE / 3600;
export const MM_PER_INCH = 25.4;
/** Conventional inch of mercury at 0 °C (NIST SP 811, appendix B.8). */
export const HPA_PER_INHG = 33.86389;

export type UnitSystem = 'metric' | 'imperial' | 'nautical';

export function fahrenheitToCelsius(f: number): number {
  return ((f - 32) * 5) / 9;
}

export function celsiusToFahrenheit(c: number): number {
  return (c * 9) / 5 + 32;
}

/** `2.1 km`, `850 m`, `1.3 mi`, `1.1 nmi`. */
export function formatDistance(km: number, system: UnitSystem): string {
  if (system === 'metric') return km < 1 ? `${Math.round(km * 1000)} m` : `${figures(km)} km`;
  const metres = system === 'imperial' ? METRES_PER_MILE : METRES_PER_NAUTICAL_MILE;
  return `${figures((km * 1000) / metres)} ${system === 'imperial' ? 'mi' : 'nmi'}`;
}

/** `34 km/h`, `21 mph`, `18 kt`. */
export function formatSpeed(mps: number, system: UnitSystem): string {
  if (system === 'metric') return `${Math.round(mps * 3.6)} km/h`;
  if (system === 'imperial') return `${Math.round(mps / MPS_PER_MPH)} mph`;
  return `${Math.round(mps / MPS_PER_KNOT)} kt`;
}

/** Wind is read in m/s, mph or knots. */
export function formatWind(mps: number, system: UnitSystem): string {
  return system === 'metric' ? `${Math.round(mps)} m/s` : formatSpeed(mps, system);
}

export function formatTemperature(celsius: number, system: UnitSystem): string {
  const [degrees, unit] = system === 'imperial' ? [celsiusToFahrenheit(celsius), '°F'] : [celsius, '°C'];
  const whole = Math.round(degrees);
  return `${whole < 0 ? '−' : ''}${Math.abs(whole)} ${unit}`;
}

export function formatHeight(metres: number, system: UnitSystem): string {
  return system === 'metric' ? `${Math.round(metres)} m` : `${Math.round(metres / METRES_PER_FOOT)} ft`;
}

/** `2.4 mm`, `0.09 in`. */
export function formatRain(mm: number, system: UnitSystem): string {
  return system === 'imperial' ? `${(mm / MM_PER_INCH).toFixed(2)} in` : `${mm.toFixed(1)} mm`;
}

/** `1013 hPa`, `29.91 inHg`. */
export function formatPressure(hpa: number, system: UnitSystem): string {
  return system === 'imperial' ? `${(hpa / HPA_PER_INHG).toFixed(2)} inHg` : `${Math.round(hpa)} hPa`;
}

function figures(value: number): string {
  return value < 10 ? value.toFixed(1) : String(Math.round(value));
}
