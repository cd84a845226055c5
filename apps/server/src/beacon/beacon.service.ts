import { Inject, Injectable, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import type { Ax25Frame } from '@mistpeak/core/ax25/frame';
import { composeBeacon } from '@mistpeak/core/beacon/composer';
import {
  formatVoiceFrequency,
  frequencyStale,
  parseVoiceFrequency,
} from '@mistpeak/core/beacon/voice-frequency';
import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { formatPlace, parsePlace } from '@mistpeak/core/geo/place';
import type { Position } from '@mistpeak/core/geo/position';
import { formatCallSign } from '@mistpeak/core/callsign/callsign';
import type { BeaconSettings, BeaconView, SendBeacon, TransmissionView } from '@mistpeak/contract/beacon';
import { every, type Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { OwnStationsService } from '../operator/own-stations.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { WhereaboutsService, type Told } from '../whereabouts/whereabouts.service.js';
import { BeaconEntity } from './beacon.entity.js';

const LOOK_EVERY_MS = 30_000;

@Injectable()
export class BeaconService implements OnModuleInit, OnModuleDestroy {
  private toldStale: BeaconView['frequencyStale'];
  private stopLooking = (): void => undefined;
  private current: BeaconEntity | null = null;
  private all: readonly BeaconEntity[] = [];

  constructor(
    @InjectRepository(BeaconEntity) private readonly rows: Repository<BeaconEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly operator: OperatorService,
    private readonly ownStations: OwnStationsService,
    private readonly transmitting: TransmittingService,
    private readonly whereabouts: WhereaboutsService,
    private readonly live: LiveService,
  ) {}

  async onModuleInit(): Promise<void> {
    await this.read();
    this.live.contribute('beacon', () => this.view());
    this.stopLooking = every(this.clock, LOOK_EVERY_MS, () => this.tellStale());
  }

  onModuleDestroy(): void {
    this.stopLooking();
  }

  view(): BeaconView | null {
    return this.current ? this.viewOf(this.current) : null;
  }

  async save(settings: BeaconSettings): Promise<BeaconView> {
    const position = parsePlace(settings.place);
    if (isMalformed(position)) throw new ProblemException('field-refused', { place: position.malformed });
    const call = this.operator.ownCall(settings.source);
    const { version, place: _, ...said } = settings;
    const source = formatCallSign(call);
    const path = settings.path.trim().toUpperCase();
    const frame = composed({ ...said, ...position, source, path }, undefined, true);
    if (isMalformed(frame)) throw new ProblemException('field-refused', { comment: frame.malformed });
    const station = await this.ownStations.ofThisProgram(call);
    const known = await this.rows.findOneBy({ stationId: station.id });
    if (known) refuseIfChanged(known.version, version);
    this.current = await this.rows.save({
      ...known,
      altitudeM: null,
      phgPowerW: null,
      phgHeightM: null,
      phgGainDb: null,
      ...said,
      ...position,
      stationId: station.id,
      source,
      path,
      ...this.frequencyOf(said.frequency, known, position),
      savedAt: new Date(this.clock.nowMs()),
    });
    await this.read();
    return this.publish();
  }

  /** The voice frequency in force, given anew: it counts from now and here. */
  async say(frequency: string): Promise<BeaconView> {
    if (!this.current) throw new ProblemException('no-beacon');
    const read = parseVoiceFrequency(frequency);
    if (isMalformed(read)) throw new ProblemException('field-refused', { frequency: read.malformed });
    const { latitudeDeg, longitudeDeg } = this.current;
    const here = this.whereabouts.latest()?.position ?? { latitudeDeg, longitudeDeg };
    this.current = await this.rows.save({ ...this.current, ...this.frequencyOf(frequency, null, here) });
    await this.read();
    return this.publish();
  }

  /** The frame that would leave now. fix: where we are; left out, the beacon's own place. */
  frameOf(source: string, fix: Told | undefined): Ax25Frame | Malformed | undefined {
    const beacon = this.all.find((one) => one.source === source);
    return beacon && composed(beacon, fix, this.staleOf(beacon) === undefined);
  }

  placeOf(source: string): Position | undefined {
    const beacon = this.all.find((one) => one.source === source);
    return beacon && { latitudeDeg: beacon.latitudeDeg, longitudeDeg: beacon.longitudeDeg };
  }

  /** Sends the saved beacon once. */
  send({ id, linkId }: Required<SendBeacon>): Promise<TransmissionView> {
    if (!this.current) throw new ProblemException('no-beacon');
    this.operator.ownCall(this.current.source);
    const frame = composed(this.current, undefined, this.staleOf(this.current) === undefined);
    if (isMalformed(frame)) throw new ProblemException('field-refused', { comment: frame.malformed });
    return this.transmitting.command({
      id,
      linkId,
      frame,
      sendClass: 'beacon',
      owner: 'beacon',
      purpose: 'beacon',
    });
  }

  private async read(): Promise<void> {
    this.all = await this.rows.find({ order: { savedAt: 'DESC' } });
    this.current = this.all[0] ?? null;
  }

  /** A frequency goes stale while nothing is saved: whoever looks is told when it does. */
  private tellStale(): void {
    if (this.view()?.frequencyStale !== this.toldStale) this.publish();
  }

  private publish(): BeaconView {
    const saved = this.view() as BeaconView;
    this.toldStale = saved.frequencyStale;
    this.live.publish({ kind: 'beacon', data: saved });
    return saved;
  }

  /** The same words keep their time: saving something else does not make an old frequency young. */
  private frequencyOf(
    text: string,
    known: BeaconEntity | null,
    { latitudeDeg, longitudeDeg }: Position,
  ): Pick<BeaconEntity, 'frequency' | 'frequencySince' | 'frequencyLatitudeDeg' | 'frequencyLongitudeDeg'> {
    const read = parseVoiceFrequency(text);
    const frequency = read && !isMalformed(read) ? formatVoiceFrequency(read) : '';
    if (known && known.frequency === frequency) {
      const { frequencySince, frequencyLatitudeDeg, frequencyLongitudeDeg } = known;
      return { frequency, frequencySince, frequencyLatitudeDeg, frequencyLongitudeDeg };
    }
    return {
      frequency,
      frequencySince: frequency === '' ? null : new Date(this.clock.nowMs()),
      frequencyLatitudeDeg: frequency === '' ? null : latitudeDeg,
      frequencyLongitudeDeg: frequency === '' ? null : longitudeDeg,
    };
  }

  private staleOf(beacon: BeaconEntity): BeaconView['frequencyStale'] {
    const { frequency, frequencySince, frequencyLatitudeDeg, frequencyLongitudeDeg } = beacon;
    if (frequency === '' || !frequencySince) return undefined;
    const position =
      frequencyLatitudeDeg === null || frequencyLongitudeDeg === null
        ? undefined
        : { latitudeDeg: frequencyLatitudeDeg, longitudeDeg: frequencyLongitudeDeg };
    const given = { atMs: frequencySince.getTime(), ...(position ? { position } : {}) };
    const told = this.whereabouts.latest();
    return frequencyStale(given, this.clock.nowMs(), told?.position, told !== undefined);
  }

  private viewOf(row: BeaconEntity): BeaconView {
    const { source, latitudeDeg, longitudeDeg, symbolTable, symbolCode, comment, path, version } = row;
    const { format, messaging, ambiguityDigits, altitudeM, phgPowerW, phgHeightM, phgGainDb, frequency } =
      row;
    const stale = this.staleOf(row);
    return {
      ...{
        source,
        place: formatPlace({ latitudeDeg, longitudeDeg }),
        symbolTable,
        symbolCode,
        comment,
        path,
      },
      ...{
        format,
        messaging,
        ambiguityDigits,
        altitudeM,
        phgPowerW,
        phgHeightM,
        phgGainDb,
        frequency,
        version,
      },
      ...(row.frequencySince ? { frequencySinceMs: row.frequencySince.getTime() } : {}),
      ...(stale ? { frequencyStale: stale } : {}),
    };
  }
}

type Said = Pick<
  BeaconEntity,
  | 'source'
  | 'latitudeDeg'
  | 'longitudeDeg'
  | 'symbolTable'
  | 'symbolCode'
  | 'comment'
  | 'path'
  | 'format'
  | 'messaging'
  | 'ambiguityDigits'
  | 'frequency'
> & { readonly [Key in 'altitudeM' | 'phgPowerW' | 'phgHeightM' | 'phgGainDb']?: number | null };

/** What moves says where it goes, and no power and height. */
function composed(said: Said, fix: Told | undefined, withFrequency: boolean): Ax25Frame | Malformed {
  const { latitudeDeg, longitudeDeg, phgPowerW, phgHeightM, phgGainDb } = said;
  const frequency = withFrequency ? parseVoiceFrequency(said.frequency) : undefined;
  if (isMalformed(frequency)) return frequency;
  const altitudeM = fix ? fix.altitudeM : (said.altitudeM ?? undefined);
  const isPhg =
    !fix && typeof phgPowerW === 'number' && typeof phgHeightM === 'number' && typeof phgGainDb === 'number';
  return composeBeacon(
    {
      source: said.source,
      position: fix?.position ?? { latitudeDeg, longitudeDeg },
      symbol: { table: said.symbolTable, code: said.symbolCode },
      path: said.path,
      comment: said.comment,
      messaging: said.messaging,
      ambiguityDigits: said.ambiguityDigits,
      ...(frequency ? { frequency } : {}),
      ...(altitudeM === undefined ? {} : { altitudeM }),
      ...(isPhg
        ? { phg: { powerW: phgPowerW, heightM: phgHeightM, gainDb: phgGainDb, directivityDeg: 0 } }
        : {}),
      ...(fix?.speedMps === undefined ? {} : { speedMps: fix.speedMps }),
      ...(fix?.courseDeg === undefined ? {} : { courseDeg: fix.courseDeg }),
    },
    said.format,
  );
}
