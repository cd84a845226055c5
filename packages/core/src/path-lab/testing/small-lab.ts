import { USUAL_ACCESS } from '../../network/channel.js';
import type { Lab, LabRole, LabStation, Sender } from '../lab.js';
import { LevelTable } from '../level-table.js';

const END = {
  position: { latitudeDeg: -29.6, longitudeDeg: -11.4 },
  heightM: 10,
  powerW: 5,
  gainDbi: 0,
  thresholdDbm: -113,
};

/** A lab without ground: every pair is out of reach until it is said how far it stands above the threshold. */
export class SmallLab {
  readonly stations: LabStation[] = [];
  readonly sender: Sender = { call: 'QH4MPK-7', end: END, places: [END.position], octets: 40 };
  private readonly pairs: { a: string; b: string; marginDb: number; spreadDb: number }[] = [];

  add(call: string, role: LabRole, packetsPerHour = 0, path = ''): this {
    this.stations.push({ call, role, end: END, packetsPerHour, path, octets: 40 });
    return this;
  }

  /** Both ways; 'me' is the sender. */
  hear(a: string, b: string, marginDb = 30, spreadDb = 0): this {
    this.pairs.push({ a, b, marginDb, spreadDb });
    return this;
  }

  get lab(): Lab {
    return { stations: this.stations, frequencyMHz: 144.8, airRate: 1200, access: USUAL_ACCESS };
  }

  get table(): LevelTable {
    const size = this.stations.length;
    const table = new LevelTable(size, 1);
    for (let by = 0; by <= size; by++)
      for (let from = 0; from <= size; from++)
        if (by !== from && by + from > 0) table.set(by, from, 0, -100, 0);
    const numberOf = (call: string): number =>
      call === 'me' ? 0 : this.stations.findIndex((station) => station.call === call) + 1;
    for (const { a, b, marginDb, spreadDb } of this.pairs) {
      table.set(numberOf(a), numberOf(b), 0, marginDb, spreadDb);
      table.set(numberOf(b), numberOf(a), 0, marginDb, spreadDb);
    }
    return table;
  }
}

/** Runs a generator to its end. */
export function finish<Result>(run: Generator<unknown, Result>): Result {
  let next = run.next();
  while (!next.done) next = run.next();
  return next.value;
}
