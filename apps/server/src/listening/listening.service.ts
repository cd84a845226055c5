import { Inject, Injectable } from '@nestjs/common';
import { fromHex } from '@mistpeak/core/bits/octets';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { channelHealth, type AiredPacket, type ChannelHealth } from '@mistpeak/core/listening/channel-health';
import type { WeatherAt } from '@mistpeak/core/listening/weather-outlook';
import { ASSUMED_TXDELAY_MS } from '@mistpeak/core/stations/channel-past';
import { stationName } from '@mistpeak/core/stations/station';
import { thinnedOut } from '@mistpeak/core/tracks/track';
import type { WeatherOf } from '@mistpeak/contract/listening';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { RecordService } from '../record/record.service.js';
import { packetOf } from '../record/packet-of.js';

/** A chart shows no more. */
const MOST_POINTS = 200;
const HOUR_MS = 3_600_000;
const MINUTE_MS = 60_000;

/** What the record tells of hours: of the channel, and of the weather. */
@Injectable()
export class ListeningService {
  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly links: LinksService,
    private readonly record: RecordService,
  ) {}

  /** Of one link's channel, the last minutes; TXDELAY of others is assumed, of our own frames known. */
  async health(linkId: string, minutes: number): Promise<ChannelHealth> {
    const { airRate, txDelayMs } = this.links.settings(linkId);
    const untilMs = this.clock.nowMs();
    const fromMs = untilMs - minutes * MINUTE_MS;
    const packets: AiredPacket[] = [];
    for await (const record of this.record.since(fromMs)) {
      const packet = record.linkId === linkId ? packetOf(record) : undefined;
      const raw = fromHex(record.rawHex);
      if (!packet || isMalformed(raw)) continue;
      const airMs = airTimeMs(raw, airRate, { txDelayMs: packet.isSent ? txDelayMs : ASSUMED_TXDELAY_MS });
      // Of ours the time is that of handing over, of others the end.
      packets.push({ ...packet, airMs, atMs: packet.isSent ? packet.atMs + airMs : packet.atMs });
    }
    return channelHealth(packets, fromMs, untilMs);
  }

  /** Every weather station of the last hours, by the number of its reports thinned out; copies are one. */
  async weather(hours: number): Promise<WeatherOf[]> {
    const stations = new Map<string, WeatherAt[]>();
    const sinceMs = this.clock.nowMs() - hours * HOUR_MS;
    for await (const { atMs, view } of this.record.heardSince(sinceMs)) {
      const { frame, report } = view;
      let inner = report;
      while (inner?.thirdParty) inner = inner.thirdParty.report;
      if (!inner?.weather) continue;
      const name = stationName({ frame, report, heardAtMs: atMs, frameId: '' });
      const known = stations.get(name) ?? [];
      stations.set(name, known);
      const last = known.at(-1);
      if (
        last &&
        atMs - last.atMs < MINUTE_MS &&
        JSON.stringify(last.weather) === JSON.stringify(inner.weather)
      )
        continue;
      known.push({ atMs, weather: inner.weather });
    }
    return [...stations].map(([name, reports]) => ({ name, reports: thinnedOut(reports, MOST_POINTS) }));
  }
}
