import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { beaconFrame } from '@mistpeak/core/beacon/beacon';
import { formatPlace, parsePlace } from '@mistpeak/core/geo/place';
import { formatCallSign } from '@mistpeak/core/callsign/callsign';
import type { BeaconSettings, BeaconView, SendBeacon, TransmissionView } from '@mistpeak/contract/beacon';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { OwnStationsService } from '../operator/own-stations.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { BeaconEntity } from './beacon.entity.js';

@Injectable()
export class BeaconService implements OnModuleInit {
  private current: BeaconEntity | null = null;

  constructor(
    @InjectRepository(BeaconEntity) private readonly rows: Repository<BeaconEntity>,
    private readonly operator: OperatorService,
    private readonly ownStations: OwnStationsService,
    private readonly transmitting: TransmittingService,
    private readonly live: LiveService,
  ) {}

  async onModuleInit(): Promise<void> {
    this.current = (await this.rows.find({ order: { savedAt: 'DESC' }, take: 1 }))[0] ?? null;
    this.live.contribute('beacon', () => this.view());
  }

  view(): BeaconView | null {
    return this.current ? viewOf(this.current) : null;
  }

  async save(settings: BeaconSettings): Promise<BeaconView> {
    const position = parsePlace(settings.place);
    if (isMalformed(position)) throw new ProblemException('field-refused', { place: position.malformed });
    const call = this.operator.ownCall(settings.source);
    const station = await this.ownStations.ofThisProgram(call);
    const { symbolTable, symbolCode, comment, path, compressed } = settings;
    const known = await this.rows.findOneBy({ stationId: station.id });
    if (known) refuseIfChanged(known.version, settings.version);
    this.current = await this.rows.save({
      ...known,
      stationId: station.id,
      source: formatCallSign(call),
      ...position,
      symbolTable,
      symbolCode,
      comment,
      path: path.trim().toUpperCase(),
      compressed,
      savedAt: new Date(),
    });
    const saved = viewOf(this.current);
    this.live.publish({ kind: 'beacon', data: saved });
    return saved;
  }

  /** Sends the saved beacon once. */
  send({ id, linkId }: Required<SendBeacon>): Promise<TransmissionView> {
    if (!this.current) throw new ProblemException('no-beacon');
    const { source, latitudeDeg, longitudeDeg, symbolTable, symbolCode, comment, path, compressed } =
      this.current;
    this.operator.ownCall(source);
    const frame = beaconFrame({
      source,
      position: { latitudeDeg, longitudeDeg },
      symbol: { table: symbolTable, code: symbolCode },
      comment,
      path,
      compressed,
    });
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
}

function viewOf(row: BeaconEntity): BeaconView {
  const { source, latitudeDeg, longitudeDeg, symbolTable, symbolCode, comment, path, compressed, version } =
    row;
  const place = formatPlace({ latitudeDeg, longitudeDeg });
  return { source, place, symbolTable, symbolCode, comment, path, compressed, version };
}
