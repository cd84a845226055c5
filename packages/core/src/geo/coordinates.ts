import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import type { Position } from './position.js';
import { formatLocator } from './locator.js';

export type CoordinateForm = 'decimal' | 'minutes' | 'locator';
type Axis = 'latitude' | 'longitude';

const AXES = {
  latitude: { limit: 90, letters: 'NS', width: 2, example: '29.5800 S or 29 34.80 S' },
  longitude: { limit: 180, letters: 'EW', width: 3, example: '11.4000 W or 11 24.00 W' },
} as const;
/** Degrees, with minutes or not, with seconds or not. */
const NUMBERS = /^([+-])?(\d+(?:\.\d+)?)(?:[°\s]+(\d+(?:\.\d+)?)(?:['’′\s]+(\d+(?:\.\d+)?))?)?[°'’′"”″\s]*$/;

/** Reads `-29.58`, `29.58 S`, `S 29.58°`, `29 34.8 S`, `29°34.8′S` or `29°34′48″S` into degrees, north and east positive. */
export function parseCoordinate(text: string, axis: Axis): number | Malformed {
  const { limit, letters, example } = AXES[axis];
  const raised = text.trim().toUpperCase().replace(',', '.').replace('−', '-');
  const letter = /[A-Z]$|^[A-Z]/.exec(raised)?.[0];
  if (letter && !letters.includes(letter))
    return malformed(`a ${axis} has ${letters[0]} or ${letters[1]}, not ${letter}`, raised.indexOf(letter));
  const match = NUMBERS.exec(raised.replace(/[A-Z]$|^[A-Z]/, '').trim());
  if (!match) return malformed(`write the ${axis} as ${example}`);
  const minutes = Number(match[3] ?? 0);
  const seconds = Number(match[4] ?? 0);
  if (minutes >= 60 || seconds >= 60) return malformed('minutes and seconds are below 60');
  if (letter && match[1]) return malformed('give either a sign or a letter, not both');
  const degrees = Number(match[2]) + minutes / 60 + seconds / 3600;
  if (degrees > limit) return malformed(`a ${axis} is at most ${limit}°`);
  return match[1] === '-' || letter === 'S' || letter === 'W' ? -degrees : degrees;
}

/** Of an ambiguous position no more is written than was sent: decimals of a degree, letters of a locator, by digits left out. */
const DECIMALS = [4, 3, 2, 1, 0] as const;
const LOCATOR_LENGTH = [6, 6, 6, 4, 4] as const;

/** The position in the form that the operator chose; ambiguityDigits: how many of its last digits are not known. */
export function formatPosition(position: Position, form: CoordinateForm, ambiguityDigits = 0): string {
  if (form === 'locator') {
    const locator = formatLocator(position, LOCATOR_LENGTH[ambiguityDigits] ?? 4);
    return isMalformed(locator) ? '' : locator;
  }
  const of = (degrees: number, axis: Axis): string => formatCoordinate(degrees, axis, form, ambiguityDigits);
  return `${of(position.latitudeDeg, 'latitude')} ${of(position.longitudeDeg, 'longitude')}`;
}

export function formatCoordinate(
  degrees: number,
  axis: Axis,
  form: 'decimal' | 'minutes',
  ambiguityDigits = 0,
): string {
  const { letters, width } = AXES[axis];
  const letter = degrees < 0 ? letters[1] : letters[0];
  const size = Math.abs(degrees);
  if (form === 'decimal') return `${size.toFixed(DECIMALS[ambiguityDigits] ?? 0)}°${letter}`;
  const hundredths = Math.round(size * 6000);
  const whole = Math.floor(hundredths / 6000);
  const minutes = ((hundredths % 6000) / 100).toFixed(2).padStart(5, '0');
  return `${String(whole).padStart(width, '0')}°${blanked(minutes, ambiguityDigits)}′${letter}`;
}

/** `37.92` without its last digits: `37._ _` is written `37.__`. */
function blanked(minutes: string, digits: number): string {
  let left = digits;
  return [...minutes]
    .reverse()
    .map((sign) => (sign !== '.' && left-- > 0 ? '_' : sign))
    .reverse()
    .join('');
}
