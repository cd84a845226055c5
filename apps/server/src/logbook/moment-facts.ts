import type { Fact, Moment } from '@mistpeak/core/logbook/moment';
import type { Trial } from '@mistpeak/core/chain/record';
import { SWITCHES, type SwitchId } from '@mistpeak/core/kit/switches';
import { formatPlace } from '@mistpeak/core/geo/place';
import type { Snapshot } from '@mistpeak/contract/live';

/** What is no setting of a link, and what would be told twice. */
const NOT_OF_LINK = new Set(['name', 'version', 'stationId', 'sound']);

/** What a trial wrote down of its parts; nothing else is known of that time. */
export function momentOfTrial({ items, antenna }: Pick<Trial, 'items' | 'antenna'>): Moment {
  const facts: Fact[] = items.flatMap(({ name, version, switches }) => [
    ...(version ? [{ area: 'firmware' as const, of: name, name: 'version', value: version }] : []),
    ...Object.entries(switches).map(([id, value]) => ({
      area: 'switch' as const,
      of: name,
      name: switchName(id),
      value,
    })),
  ]);
  return antenna ? [...facts, { area: 'part', of: '', name: 'antenna', value: antenna }] : facts;
}

const switchName = (id: string): string => SWITCHES[id as SwitchId]?.name ?? id;

/** Everything that can be set or measured, as it stands now, from what pages are told. */
export function momentOf({
  operator,
  ownStations,
  kit,
  chains,
  ticks,
  links,
  levelResults,
  beaconWays,
}: Snapshot): Moment {
  const facts: Fact[] = [];
  const put = (area: Fact['area'], of: string, name: string, value: unknown): void => {
    if (
      typeof value === 'number' ||
      typeof value === 'boolean' ||
      (typeof value === 'string' && value !== '')
    )
      facts.push({ area, of, name, value: String(value) });
  };
  put('channel', '', 'frequency', operator && `${operator.channelMHz.toFixed(3)} MHz`);
  put('identity', '', 'call', operator?.call);
  put('place', '', 'place', operator?.position && formatPlace(operator.position));
  for (const { role, ssid, device } of ownStations) put('identity', device || role, 'SSID', ssid);
  for (const { name, version, switches } of kit.items) {
    put('firmware', name, 'version', version);
    for (const [id, value] of Object.entries(switches)) put('switch', name, switchName(id), value);
  }
  const bench = chains.find(({ onBench }) => onBench);
  put('part', '', 'chain', bench?.parts.map(({ name }) => name).join(' – '));
  put('part', '', 'antenna', bench?.antenna);
  for (const { chainId, stepId, isDone, measured } of ticks)
    if (chainId === bench?.id) put('sheet', 'sheet', stepId, isDone ? measured || 'done' : 'open');
  for (const { settings } of links)
    for (const [name, value] of Object.entries(settings))
      if (!NOT_OF_LINK.has(name)) put('link', settings.name, name, value);
  const seen = new Set<string>();
  // Newest first: only the last of each check counts.
  for (const { linkId, check, levelDbfs } of levelResults) {
    const of = links.find(({ id }) => id === linkId)?.settings.name ?? '';
    if (levelDbfs === undefined || seen.has(`${of} ${check}`)) continue;
    seen.add(`${of} ${check}`);
    put('level', of, check, `${levelDbfs.toFixed(1)} dBFS`);
  }
  for (const { linkId, isOn, source } of beaconWays) {
    const of = links.find(({ id }) => id === linkId)?.settings.name ?? '';
    put('beacon', `${source} by ${of}`, 'on its plan', isOn ? 'yes' : 'no');
  }
  return facts;
}
