import { voiceList, voiceListCsv, type VoiceChannel } from '@mistpeak/core/voice-list/voice-list';
import { formatDistance, type UnitSystem } from '@mistpeak/core/units/units';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { useHere } from '../../live/here';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { Compass } from '../../pieces/compass';
import { saveFile } from '../../pieces/save-file';

/** Voice channels that stations and objects announce, nearest first: what to set the voice radio to. */
export function VoiceView({ operator }: { operator: OperatorView }) {
  const stations = useLive((state) => state.stations);
  const nowMs = useNow(10_000);
  const here = useHere(operator);
  const channels = voiceList(stations.values(), { nowMs, from: here?.position });
  return (
    <section aria-label="Voice channels" className="flex max-w-[64rem] flex-col gap-2 px-6 py-4 max-md:px-4">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <h2>Voice channels</h2>
        <p className="text-[14px] text-ink2">
          {channels.length === 0
            ? 'None was announced in the last day.'
            : `${channels.length} announced in the last day, nearest first`}
        </p>
        <Button
          className="ml-auto"
          disabled={channels.length === 0}
          onClick={() => saveFile('voice-channels.csv', 'text/csv', voiceListCsv(channels))}
        >
          Save as CSV
        </Button>
      </div>
      <p className="text-[13px] text-ink3">
        What is announced may be old or wrong: listen before you transmit, and read the radio’s memory and
        keep it before you load another one into it.
      </p>
      <ul>
        {channels.map((channel) => (
          <ChannelRow
            key={`${channel.name} ${channel.receiveMHz}`}
            channel={channel}
            nowMs={nowMs}
            units={operator.units}
          />
        ))}
      </ul>
    </section>
  );
}

function ChannelRow({ channel, nowMs, units }: { channel: VoiceChannel; nowMs: number; units: UnitSystem }) {
  const { name, receiveMHz, kind, words, bearingDeg, distanceKm, rangeKm, heardAtMs, isStale } = channel;
  return (
    <li
      className={`grid grid-cols-[38px_1fr_auto] gap-x-3 border-t border-line py-2 ${isStale ? 'text-ink3' : ''}`}
    >
      {bearingDeg === undefined ? (
        <span className="row-span-2 grid place-items-center text-ink3">–</span>
      ) : (
        <Compass bearingDeg={bearingDeg} />
      )}
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className="font-mono text-[1.2rem] font-[620]">{receiveMHz.toFixed(3)}</b>
        <span className="font-mono text-[14.5px]">{settingWords(channel)}</span>
        <span className="text-[14px] text-ink2">{kind}</span>
      </p>
      <p className="text-right font-mono text-[13.5px]">
        {distanceKm === undefined ? 'no place' : formatDistance(distanceKm, units)}
      </p>
      <p className="min-w-0 text-[13.5px] break-words text-ink2">
        <span className="font-mono">{name}</span>
        {words === '' ? '' : ` · ${words}`}
        {rangeKm === undefined ? '' : ` · reaches ${formatDistance(rangeKm, units)}`}
      </p>
      <p className="text-right text-[12.5px] text-ink3">
        {isStale ? 'stale, ' : ''}
        <span className="font-mono">{formatAge(nowMs - heardAtMs)}</span>
      </p>
    </li>
  );
}

/** What else is set: shift, tone, code, width. */
export function settingWords({ shiftKHz, toneHz, toneSquelch, dcs, narrow }: VoiceChannel): string {
  return [
    shiftKHz === 0 ? '' : `${shiftKHz < 0 ? '−' : '+'}${Math.abs(shiftKHz) / 1000} MHz`,
    toneHz === undefined
      ? ''
      : toneHz === 1750
        ? 'burst 1750 Hz'
        : `tone ${toneHz.toFixed(1)} Hz${toneSquelch ? ' both ways' : ''}`,
    dcs === undefined ? '' : `code ${dcs}`,
    narrow ? 'narrow' : '',
  ]
    .filter(Boolean)
    .join(', ');
}
