import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { formatCallSign, type CallSign } from '@mistpeak/core/callsign/callsign';
import type { OwnStationSettings, OwnStationView } from '@mistpeak/contract/own-station';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';
import { OwnStationEntity } from './operator.entity.js';
import { OperatorService } from './operator.service.js';

/** Which device of the licence holder uses which SSID. Two devices may share one here: the page warns of it. */
@Injectable()
export class OwnStationsService implements OnModuleInit {
  private current: OwnStationView[] = [];

  constructor(
    @InjectRepository(OwnStationEntity) private readonly rows: Repository<OwnStationEntity>,
    private readonly operator: OperatorService,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
  ) {}

  async onModuleInit(): Promise<void> {
    this.live.contribute('ownStations', () => this.current);
    this.current = await this.read();
  }

  async add(settings: OwnStationSettings, id: string): Promise<OwnStationView> {
    const made = this.current.find((one) => one.id === id);
    if (made) return made;
    const operator = this.operator.view();
    if (!operator) throw new ProblemException('no-operator');
    const row = await this.rows.save(this.rows.create({ ...settings, id, call: operator.call }));
    await this.publish();
    return viewOf(row);
  }

  async change(id: string, settings: OwnStationSettings): Promise<OwnStationView> {
    const known = await this.rows.findOneBy({ id });
    if (!known || this.removals.isLeaving(keyOf(id))) throw new ProblemException('not-found');
    refuseIfChanged(known.version, settings.version);
    const row = await this.rows.save({ ...known, ...settings, version: known.version });
    await this.publish();
    return viewOf(row);
  }

  async remove(id: string): Promise<void> {
    const station = this.current.find((one) => one.id === id);
    if (!station) return;
    await this.removals.remove({
      key: keyOf(id),
      words: `the station ${station.call}`,
      changed: () => this.publish(),
      finish: async () => void (await this.rows.delete(id)),
    });
  }

  /** The station that this program transmits as, made when it is first needed. */
  async ofThisProgram({ call, ssid }: CallSign): Promise<OwnStationEntity> {
    const known = await this.rows.findOneBy({ call, ssid });
    if (known) {
      if (this.removals.isLeaving(keyOf(known.id))) {
        this.removals.drop(keyOf(known.id));
        await this.publish();
      }
      return known;
    }
    const row = await this.rows.save(this.rows.create({ call, ssid, device: 'Mistpeak on this computer' }));
    await this.publish();
    return row;
  }

  private async publish(): Promise<void> {
    this.current = await this.read();
    this.live.publish({ kind: 'own-stations', data: this.current });
  }

  private async read(): Promise<OwnStationView[]> {
    const rows = await this.rows.find({ order: { ssid: 'ASC', device: 'ASC' } });
    return rows.filter(({ id }) => !this.removals.isLeaving(keyOf(id))).map(viewOf);
  }
}

const keyOf = (id: string): string => `station ${id}`;

function viewOf({ call, ssid, ...row }: OwnStationEntity): OwnStationView {
  return { ...row, call: formatCallSign({ call, ssid }), ssid };
}
