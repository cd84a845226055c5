import { formatPosition, type CoordinateForm } from '../geo/coordinates.js';
import { windName } from '../geo/position.js';
import { formatHeight, formatSpeed, formatTemperature, formatWind, type UnitSystem } from '../units/units.js';
import type { AprsReport, Weather } from './report.js';

export interface Manner {
  readonly units: UnitSystem;
  readonly coordinates: CoordinateForm;
}

/** One line in the operator's units: what the report says, most telling first. */
export function describeReport(report: AprsReport, manner: Manner): string {
  const parts = [headline(report), place(report, manner), motion(report, manner.units)];
  if (report.weather) parts.push(describeWeather(report.weather, manner.units));
  if (report.altitudeM !== undefined) parts.push(`${formatHeight(report.altitudeM, manner.units)} up`);
  parts.push(report.status ?? '', report.comment ?? '');
  return parts.filter((part) => part !== '').join(' · ');
}

function headline(report: AprsReport): string {
  if (report.type === 'unknown') return `not read as APRS: ${report.reason ?? 'unknown kind'}`;
  if (report.object) return `${report.type} ${report.object.name}${report.object.live ? '' : ' (gone)'}`;
  if (report.message) return describeMessage(report);
  return report.type === 'mic-e' ? `position, ${report.micE?.message ?? ''}` : report.type.replace('-', ' ');
}

function describeMessage({ type, message }: AprsReport): string {
  const number = message?.number ? ` no. ${message.number}` : '';
  return `${type} to ${message?.addressee ?? ''}${number}${message?.text ? `: ${message.text}` : ''}`;
}

function place({ latitudeDeg, longitudeDeg }: AprsReport, { coordinates }: Manner): string {
  if (latitudeDeg === undefined || longitudeDeg === undefined) return '';
  return formatPosition({ latitudeDeg, longitudeDeg }, coordinates);
}

function motion({ speedMps, courseDeg }: AprsReport, units: UnitSystem): string {
  if (speedMps === undefined) return '';
  return formatSpeed(speedMps, units) + (courseDeg === undefined ? '' : ` ${windName(courseDeg)}`);
}

/** Temperature, wind, rain, pressure in the operator's units. */
export function describeWeather(weather: Weather, units: UnitSystem): string {
  const parts: string[] = [];
  const {
    temperatureC,
    windSpeedMps,
    windDirectionDeg,
    windGustMps,
    rainLastHourMm,
    humidityPercent,
    pressureHpa,
  } = weather;
  if (temperatureC !== undefined) parts.push(formatTemperature(temperatureC, units));
  if (windSpeedMps !== undefined)
    parts.push(
      `${windDirectionDeg === undefined ? 'wind' : windName(windDirectionDeg)} ${formatWind(windSpeedMps, units)}`,
    );
  if (windGustMps) parts.push(`gusts ${formatWind(windGustMps, units)}`);
  if (rainLastHourMm)
    parts.push(
      units === 'imperial'
        ? `rain ${(rainLastHourMm / 25.4).toFixed(2)} in/h`
        : `rain ${rainLastHourMm.toFixed(1)} mm/h`,
    );
  if (humidityPercent !== undefined) parts.push(`${humidityPercent} %`);
  if (pressureHpa !== undefined) parts.push(`${Math.round(pressureHpa)} hPa`);
  return parts.join(' ');
}
