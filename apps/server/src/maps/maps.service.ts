import { createWriteStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Inject, Injectable, Logger, type OnModuleInit } from '@nestjs/common';
import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { decodePmtilesHeader, HEADER_OCTETS } from '@mistpeak/core/pmtiles/header';
import type { MapView } from '@mistpeak/contract/maps';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';

/** A file's name and nothing of a path. */
const NAME = /^[\w][\w.-]{0,80}\.pmtiles$/i;
const HALF = '.part';

/** Map files of the operator's own in a folder of their own, gigabytes of them: laid there, or sent. They are read by range. */
@Injectable()
export class MapsService implements OnModuleInit {
  private readonly log = new Logger('maps');
  private maps: readonly MapView[] = [];

  constructor(
    @Inject(CONFIGURATION) private readonly configuration: Configuration,
    private readonly live: LiveService,
  ) {}

  async onModuleInit(): Promise<void> {
    this.live.contribute('maps', () => this.maps);
    await this.look();
  }

  /** What lies in the folder now, also what somebody else laid there. */
  async look(): Promise<readonly MapView[]> {
    const folder = this.configuration.mapsFolder;
    const names = folder === undefined ? [] : await readdir(folder).catch(() => []);
    const found: MapView[] = [];
    for (const name of names.filter((one) => NAME.test(one)).sort()) {
      const map = await this.read(name);
      if (isMalformed(map)) this.log.warn(`${name}: ${map.malformed}`);
      else found.push(map);
    }
    if (JSON.stringify(found) !== JSON.stringify(this.maps)) {
      this.maps = found;
      this.live.publish({ kind: 'maps', data: found });
    }
    return this.maps;
  }

  /** Streams it to the disk; only a whole one takes its name. */
  async take(name: string, octets: Readable): Promise<MapView> {
    const file = this.fileOf(name);
    await mkdir(this.configuration.mapsFolder as string, { recursive: true });
    try {
      await pipeline(octets, createWriteStream(file + HALF));
      const map = await this.read(name, HALF);
      if (isMalformed(map)) throw new ProblemException('not-a-map', { file: map.malformed });
      await rename(file + HALF, file);
      await this.look();
      return map;
    } catch (error) {
      await rm(file + HALF, { force: true });
      throw (error as NodeJS.ErrnoException).code === 'ENOSPC' ? new ProblemException('disk-full') : error;
    }
  }

  async remove(name: string): Promise<void> {
    await rm(this.fileOf(name), { force: true });
    await this.look();
  }

  private fileOf(name: string): string {
    const folder = this.configuration.mapsFolder;
    if (folder === undefined) throw new ProblemException('not-found');
    if (!NAME.test(name))
      throw new ProblemException('field-refused', { name: 'a file’s name that ends in .pmtiles' });
    return join(folder, name);
  }

  private async read(name: string, suffix = ''): Promise<MapView | Malformed> {
    const file = this.fileOf(name) + suffix;
    const { size } = await stat(file);
    const handle = await open(file);
    try {
      const head = new Uint8Array(HEADER_OCTETS);
      const { bytesRead } = await handle.read(head, 0, HEADER_OCTETS, 0);
      const header = decodePmtilesHeader(head.subarray(0, bytesRead), size);
      if (isMalformed(header)) return header;
      const { parts: _, ...rest } = header;
      return { name, octets: size, ...rest };
    } finally {
      await handle.close();
    }
  }
}
