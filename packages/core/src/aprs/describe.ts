import { formatPosition, type CoordinateForm } from '../geo/coordinates.js';
import { shownText } from '../bits/octets.js';
import { windName } from '../geo/position.js';
import {
  formatDistance,
  formatHeight,
  formatSpeed,
  formatTemperature,
  formatWind,
  type UnitSystem,
} from '../units/units.js';
import type { AprsReport, Bearing, Frequency, Storm, Telemetry, Weather } from './report.js';

const STANDING_MPS = 0.3;

export interface Manner {
  readonly units: UnitSystem;
  readonly coordinates: CoordinateForm;
}

/** One line in the operator's units: what the report says, most telling first. */
export function describeReport(report: AprsReport, manner: Manner): string {
  const parts = [headline(report), place(report, manner), motion(report, manner.units)];
  if (report.weather) parts.push(describeWeather(report.weather, manner.units));
  if (report.altitudeM !== undefined) parts.push(`${formatHeight(report.altitudeM, manner.units)} up`);
  if (report.frequency) parts.push(describeFrequency(report.frequency, manner.units));
  if (report.telemetry)
    parts.push((report.type === 'telemetry' ? '' : 'telemetry ') + describeTelemetry(report.telemetry));
  if (report.bearing) parts.push(describeBearing(report.bearing, manner.units));
  if (report.storm) parts.push(describeStorm(report.storm, manner.units));
  parts.push(
    ...describeRest(report, manner),
    shownText(report.status ?? ''),
    shownText(report.comment ?? ''),
  );
  return parts.filter((part) => part !== '').join(' · ');
}

function headline(report: AprsReport): string {
  const { type, object, message, thirdParty } = report;
  if (type === 'unknown') return `not read as APRS: ${report.reason ?? 'unknown kind'}`;
  if (type === 'query') return `asks all stations: ${report.query?.name ?? ''}`;
  if (thirdParty) return `passed on for ${thirdParty.source}`;
  if (object) return `${type} ${object.name}${object.live ? '' : ' (gone)'}`;
  if (message) return describeMessage(report);
  return type === 'mic-e' ? `position, ${report.micE?.message ?? ''}` : type.replace('-', ' ');
}

function describeRest(
  { phg, dfs, beam, rangeM, capabilities, thirdParty, userDefined, signpost, area }: AprsReport,
  manner: Manner,
): string[] {
  const parts: string[] = [];
  const range = phg?.rangeM ?? rangeM;
  if (phg)
    parts.push(
      `${phg.powerW} W, ${formatHeight(phg.heightM, manner.units)} over the ground around, ${phg.gainDb} dB${towards(phg.directivityDeg)}`,
    );
  if (range !== undefined)
    parts.push(
      `reach ${formatDistance(range / 1000, manner.units)}${phg && phg.directivityDeg > 0 ? ` at most, to the ${windName(phg.directivityDeg % 360)}` : ''}`,
    );
  if (dfs) parts.push(`hears a signal of S${dfs.strengthS}`);
  if (beam) parts.push(`beam to ${beam.headingDeg}°, ${beam.erpW} W radiated`);
  if (signpost !== undefined) parts.push(`sign “${signpost}”`);
  if (area) parts.push(`${area.filled ? 'filled ' : ''}${area.shape.replace('-', ' ')}`);
  if (capabilities)
    parts.push(
      capabilities.map(({ name, value }) => (value === undefined ? name : `${name} ${value}`)).join(', '),
    );
  if (userDefined) parts.push(shownText(userDefined.data));
  if (thirdParty) parts.push(describeReport(thirdParty.report, manner));
  return parts;
}

/** 0 is all round, 360 north. */
const towards = (directivityDeg: number): string =>
  directivityDeg > 0 ? ` to the ${windName(directivityDeg % 360)}` : ' all round';

/** `145.675 MHz −0.6 MHz tone 94.8 Hz`: what to set a voice radio to. */
export function describeFrequency(frequency: Frequency, units: UnitSystem): string {
  const { frequencyMHz, receiveMHz, offsetKHz, toneHz, dcs, toneOff, narrow, rangeKm } = frequency;
  const words = [
    frequencyMHz === undefined ? '' : `${frequencyMHz.toFixed(3)} MHz`,
    receiveMHz === undefined ? '' : `hears on ${receiveMHz.toFixed(3)}`,
    offsetKHz === undefined ? '' : `${offsetKHz < 0 ? '−' : '+'}${Math.abs(offsetKHz) / 1000} MHz`,
    toneHz === undefined ? '' : toneHz === 1750 ? 'burst 1750 Hz' : `tone ${toneHz.toFixed(1)} Hz`,
    dcs === undefined ? '' : `code ${dcs}`,
    toneOff ? 'no tone' : '',
    narrow ? 'narrow' : '',
    rangeKm === undefined ? '' : `within ${formatDistance(rangeKm, units)}`,
  ];
  return words.filter((word) => word !== '').join(' ');
}

/** Raw counts: what they mean is told apart, by the station's own definitions. */
export function describeTelemetry({ sequence, analog, digital }: Telemetry): string {
  return `no. ${sequence}: ${analog.join(', ')}${digital === undefined ? '' : `, bits ${digital}`}`;
}

function describeBearing({ bearingDeg, rangeM, widthDeg, hits }: Bearing, units: UnitSystem): string {
  if (hits === 0) return `signal from ${bearingDeg}°, of no use`;
  const width = widthDeg === undefined ? '' : ` ± ${widthDeg / 2}°`;
  return `signal from ${bearingDeg}°${width}${rangeM === undefined ? '' : `, within ${formatDistance(rangeM / 1000, units)}`}`;
}

function describeStorm({ kind, sustainedWindMps, gustMps, pressureHpa }: Storm, units: UnitSystem): string {
  return `${kind.replace('-', ' ')}, ${formatWind(sustainedWindMps, units)}, gusts ${formatWind(gustMps, units)}, ${pressureHpa} hPa`;
}

function describeMessage({ type, message }: AprsReport): string {
  const number = message?.number ? ` no. ${message.number}` : '';
  return `${type} to ${message?.addressee ?? ''}${number}${message?.text ? `: ${shownText(message.text)}` : ''}`;
}

function place({ latitudeDeg, longitudeDeg, ambiguityDigits }: AprsReport, { coordinates }: Manner): string {
  if (latitudeDeg === undefined || longitudeDeg === undefined) return '';
  return formatPosition({ latitudeDeg, longitudeDeg }, coordinates, ambiguityDigits);
}

function motion({ speedMps, courseDeg }: AprsReport, units: UnitSystem): string {
  if (speedMps === undefined) return '';
  // Who stands has no heading, whatever the report says.
  const heading = courseDeg === undefined || speedMps < STANDING_MPS ? '' : ` ${windName(courseDeg)}`;
  return formatSpeed(speedMps, units) + heading;
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
    rainLast24hMm,
    rainSinceMidnightMm,
    humidityPercent,
    pressureHpa,
    snowLast24hMm,
    luminosityWm2,
    waterLevelM,
    radiationNsvPerHour,
    batteryV,
  } = weather;
  if (temperatureC !== undefined) parts.push(formatTemperature(temperatureC, units));
  if (windSpeedMps !== undefined)
    parts.push(
      `${windDirectionDeg === undefined ? 'wind' : windName(windDirectionDeg)} ${formatWind(windSpeedMps, units)}`,
    );
  if (windGustMps) parts.push(`gusts ${formatWind(windGustMps, units)}`);
  if (rainLastHourMm) parts.push(`${rainText(rainLastHourMm, units)} in an hour`);
  if (rainSinceMidnightMm) parts.push(`${rainText(rainSinceMidnightMm, units)} since midnight`);
  if (rainLast24hMm) parts.push(`${rainText(rainLast24hMm, units)} in 24 h`);
  if (snowLast24hMm) parts.push(`${snowText(snowLast24hMm, units)} in 24 h`);
  if (humidityPercent !== undefined) parts.push(`${humidityPercent} %`);
  if (pressureHpa !== undefined) parts.push(`${Math.round(pressureHpa)} hPa`);
  if (luminosityWm2 !== undefined) parts.push(`sun ${luminosityWm2} W/m²`);
  if (waterLevelM !== undefined)
    parts.push(`water ${formatLevel(waterLevelM, units)} ${waterLevelM < 0 ? 'below' : 'above'} flood stage`);
  if (radiationNsvPerHour !== undefined) parts.push(`${Math.round(radiationNsvPerHour)} nSv/h`);
  if (batteryV !== undefined) parts.push(`battery ${batteryV} V`);
  return parts.join(', ');
}

function snowText(mm: number, units: UnitSystem): string {
  return units === 'imperial' ? `snow ${(mm / 25.4).toFixed(1)} in` : `snow ${(mm / 10).toFixed(0)} cm`;
}

function formatLevel(metres: number, units: UnitSystem): string {
  const above = Math.abs(metres);
  return units === 'imperial' ? `${(above / 0.3048).toFixed(1)} ft` : `${above.toFixed(2)} m`;
}

function rainText(mm: number, units: UnitSystem): string {
  return units === 'imperial' ? `rain ${(mm / 25.4).toFixed(2)} in` : `rain ${mm.toFixed(1)} mm`;
}
