import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { isDemoCall, parseCallSign, type CallSign } from '@mistpeak/core/callsign/callsign';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePlace } from '@mistpeak/core/geo/place';
import { OTHER_REGION, REGIONS, type OperatorSettings, type OperatorView } from '@mistpeak/contract/operator';
import { Repository } from 'typeorm';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { OperatorEntity } from './operator.entity.js';

@Injectable()
export class OperatorService implements OnModuleInit {
  private current: OperatorView | null = null;

  constructor(
    @InjectRepository(OperatorEntity) private readonly operators: Repository<OperatorEntity>,
    private readonly live: LiveService,
  ) {}

  async onModuleInit(): Promise<void> {
    const row = await this.operators.findOneBy({ id: 1 });
    this.current = row ? viewOf(row) : null;
    this.live.contribute('operator', () => this.current);
  }

  view(): OperatorView | null {
    return this.current;
  }

  async save(settings: OperatorSettings): Promise<OperatorView> {
    const known = await this.operators.findOneBy({ id: 1 });
    if (known) refuseIfChanged(known.version, settings.version);
    const row = await this.operators.save({
      ...known,
      id: 1,
      call: settings.call.trim().toUpperCase(),
      region: settings.region,
      units: settings.units,
      coordinates: settings.coordinates,
      ...placeOf(settings),
      channelMHz: settings.region === OTHER_REGION ? (settings.channelMHz ?? null) : null,
    });
    this.current = viewOf(row);
    this.live.publish({ kind: 'operator', data: this.current });
    return this.current;
  }

  /** The licence holder's call with this text's SSID, or a refusal: no operator yet, or somebody else's call. */
  ownCall(text: string): CallSign {
    if (!this.current) throw new ProblemException('no-operator');
    const parsed = parseCallSign(text);
    if (isMalformed(parsed) || parsed.call !== this.current.call) throw new ProblemException('foreign-call');
    return parsed;
  }
}

function placeOf({ place }: OperatorSettings): Pick<OperatorEntity, 'latitudeDeg' | 'longitudeDeg'> {
  if (place === '') return { latitudeDeg: null, longitudeDeg: null };
  const position = parsePlace(place);
  if (isMalformed(position)) throw new ProblemException('field-refused', { place: position.malformed });
  return position;
}

function viewOf(row: OperatorEntity): OperatorView {
  const { call, region, coordinates, latitudeDeg, longitudeDeg } = row;
  const channelMHz = row.channelMHz ?? REGIONS.find(({ id }) => id === region)?.channelMHz;
  const units = row.units as OperatorView['units'];
  return {
    call,
    region,
    channelMHz: channelMHz ?? REGIONS[0].channelMHz,
    units,
    coordinates: coordinates as OperatorView['coordinates'],
    ...(latitudeDeg === null || longitudeDeg === null ? {} : { position: { latitudeDeg, longitudeDeg } }),
    isDemo: isDemoCall(call),
    version: row.version,
  };
}
