import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { decodeElevationTile } from '@mistpeak/core/geo/elevation-tile';
import type { TileView } from '@mistpeak/contract/elevation';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';

/** Tiles of elevation that the operator dropped in. The page reads them; nothing here reckons with them. */
@Injectable()
export class ElevationService implements OnModuleInit {
  private tiles: readonly TileView[] = [];

  constructor(
    private readonly database: DataSource,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
  ) {}

  async onModuleInit(): Promise<void> {
    this.live.contribute('tiles', () => this.tiles);
    this.tiles = await this.read();
  }

  /** The tile as its file holds it. */
  async octets(name: string): Promise<Buffer> {
    const [row]: { deflated: Buffer }[] = await this.database.query(
      'SELECT deflated FROM elevation_tile WHERE name = $1',
      [name.toUpperCase().replace('.HGT', '.hgt')],
    );
    if (!row) throw new ProblemException('not-found');
    return promisify(inflate)(row.deflated);
  }

  /** One of the same name is replaced. */
  async take(name: string, octets: Uint8Array): Promise<TileView> {
    const tile = decodeElevationTile(name, octets);
    if (isMalformed(tile)) throw new ProblemException('not-a-tile', { file: tile.malformed });
    const kept = { name: name.toUpperCase().replace('.HGT', '.hgt'), size: tile.size };
    await this.database.query(
      `INSERT INTO elevation_tile (name, size, deflated) VALUES ($1, $2, $3)
       ON CONFLICT (name) DO UPDATE SET size = excluded.size, deflated = excluded.deflated`,
      [kept.name, kept.size, await promisify(deflate)(octets, { level: 1 })],
    );
    this.removals.drop(keyOf(kept.name));
    await this.publish();
    return kept;
  }

  async remove(name: string): Promise<void> {
    if (!this.tiles.some((tile) => tile.name === name)) return;
    await this.removals.remove({
      key: keyOf(name),
      words: `the elevation tile ${name}`,
      changed: () => this.publish(),
      finish: async () =>
        void (await this.database.query('DELETE FROM elevation_tile WHERE name = $1', [name])),
    });
  }

  private async publish(): Promise<void> {
    this.tiles = await this.read();
    this.live.publish({ kind: 'tiles', data: this.tiles });
  }

  private async read(): Promise<TileView[]> {
    const rows: TileView[] = await this.database.query('SELECT name, size FROM elevation_tile ORDER BY name');
    return rows.filter(({ name }) => !this.removals.isLeaving(keyOf(name)));
  }
}

const keyOf = (name: string): string => `tile ${name}`;
